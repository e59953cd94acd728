import type { Vec3 } from '../linalg/vec.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { chainsBetween } from './chains.ts';

/** Places along a cut in its plane: mm along its level direction from the point it was asked at, and height (z). */
export type CutLine = readonly (readonly [number, number])[];

/** mm by which the plane is offset from the given point, because a plane along a row of vertices folds among slivers. */
const ASIDE = 1.3e-5;

/** Cuts a mesh by the upright plane through a point along a level direction (unit); holes of the mesh break a line. */
export function cutByPlane(mesh: Mesh, at: Vec3, along: readonly [number, number]): CutLine[] {
  const p = mesh.positions;
  const t = mesh.triangles;
  const off = new Float64Array(p.length / 3);
  for (let v = 0; v < off.length; v++) off[v] = (p[3 * v + 1] - at[1]) * along[0] - (p[3 * v] - at[0]) * along[1] - ASIDE;
  const crossed: number[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const over = Number(off[t[f]] > 0) + Number(off[t[f + 1]] > 0) + Number(off[t[f + 2]] > 0);
    if (over === 1 || over === 2) crossed.push(f);
  }
  return chainsBetween(
    mesh,
    crossed,
    (v) => off[v] > 0,
    (u, v) => {
      const f = off[u] / (off[u] - off[v]);
      const mix = (k: number): number => p[3 * u + k] + f * (p[3 * v + k] - p[3 * u + k]);
      return [(mix(0) - at[0]) * along[0] + (mix(1) - at[1]) * along[1], mix(2)] as const;
    },
  );
}

/** The nearest places each side of 0 at which the lines pass a height; null where one side never does. */
export function wideAt(lines: readonly CutLine[], z: number): readonly [number, number] | null {
  let left = Number.NEGATIVE_INFINITY;
  let right = Number.POSITIVE_INFINITY;
  for (const line of lines)
    for (let i = 1; i < line.length; i++) {
      const [a, b] = [line[i - 1], line[i]];
      if (a[1] > z === b[1] > z) continue;
      const s = a[0] + ((z - a[1]) / (b[1] - a[1])) * (b[0] - a[0]);
      if (s < 0) left = Math.max(left, s);
      else right = Math.min(right, s);
    }
  return Number.isFinite(left) && Number.isFinite(right) ? [left, right] : null;
}
