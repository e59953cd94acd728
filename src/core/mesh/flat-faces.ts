import type { Mesh } from './mesh.ts';

/** mm: a triangle less high than this has no direction: single precision rounds its corners by as much. */
const FLAT = 1e-5;
/** mm²: twice the area from which on no triangle on a tooth is as flat as that. */
const LARGE = 1e-3;

/**
 * Takes the normal from every triangle that is no more than a line, as tips of fans and T-joints leave them: rounding alone has turned it, and a
 * point inside of a tooth would count as outside by it. What is left of such a triangle are its neighbours' sides.
 */
export function forgetFlat(
  { positions: p, triangles: t }: Mesh,
  faces: { readonly normals: Float64Array; readonly areas: Float64Array },
): void {
  const apart = (u: number, v: number): number => Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
  for (let f = 0; f < faces.areas.length; f++) {
    const twice = 2 * faces.areas[f];
    if (twice > LARGE) continue;
    const [a, b, c] = [t[3 * f], t[3 * f + 1], t[3 * f + 2]];
    if (twice <= FLAT * Math.max(apart(a, b), apart(b, c), apart(c, a))) faces.normals.fill(0, 3 * f, 3 * f + 3);
  }
}
