import type { Vec3 } from '../linalg/vec.ts';

export interface Solid {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/** mm between the places at which a ray looks for the surface. */
const STEP = 0.8;

/**
 * Closed mesh of a star-shaped implicit solid: an icosphere's directions from `centre`, each ray brought to the surface
 * by bracketing and bisecting. Of a body that is not star-shaped a ray gives one of its crossings.
 */
export function tessellateStar(inside: (x: number, y: number, z: number) => number, centre: Vec3, frequency: number, reach = 14): Solid {
  const { directions, triangles } = icosphere(frequency);
  const positions = new Float64Array(directions.length);
  const steps = [0];
  for (let t = STEP; t < reach; t += STEP) steps.push(t);
  const last = steps.length - 1;
  // The last step inside, in the direction before this one: neighbouring directions leave the solid between the same two steps.
  let k0 = 0;
  for (let i = 0; i < directions.length; i += 3) {
    const dx = directions[i];
    const dy = directions[i + 1];
    const dz = directions[i + 2];
    const f = (t: number) => inside(centre[0] + t * dx, centre[1] + t * dy, centre[2] + t * dz);
    // The centre is inside by definition.
    let flo = k0 > 0 ? f(steps[k0]) : 1;
    let fhi = -1;
    if (flo > 0)
      for (; k0 < last; k0++) {
        fhi = f(steps[k0 + 1]);
        if (fhi <= 0) break;
        flo = fhi;
      }
    else
      do {
        fhi = flo;
        flo = --k0 > 0 ? f(steps[k0]) : 1;
      } while (flo <= 0);
    let lo = steps[k0];
    let hi = k0 < last ? steps[k0 + 1] : reach;
    // Regula falsi, with a halving every third step against slow ends.
    for (let k = 0; k < 14 && hi - lo > 1e-6; k++) {
      const m = k % 3 === 2 ? (lo + hi) / 2 : lo + ((hi - lo) * flo) / (flo - fhi);
      const fm = f(m);
      if (Math.abs(fm) < 1e-7) {
        lo = m;
        break;
      }
      if (fm > 0) {
        lo = m;
        flo = fm;
      } else {
        hi = m;
        fhi = fm;
      }
    }
    positions[i] = centre[0] + lo * dx;
    positions[i + 1] = centre[1] + lo * dy;
    positions[i + 2] = centre[2] + lo * dz;
  }
  return { positions, triangles };
}

/** Unit icosphere whose twenty faces are each divided `frequency` times along a side. */
const spheres = new Map<number, { directions: Float64Array; triangles: Uint32Array }>();

function icosphere(frequency: number): { directions: Float64Array; triangles: Uint32Array } {
  const known = spheres.get(frequency);
  if (known) return { directions: known.directions, triangles: known.triangles.slice() };
  const g = (1 + Math.sqrt(5)) / 2;
  const v: Vec3[] = [
    [-1, g, 0],
    [1, g, 0],
    [-1, -g, 0],
    [1, -g, 0],
    [0, -1, g],
    [0, 1, g],
    [0, -1, -g],
    [0, 1, -g],
    [g, 0, -1],
    [g, 0, 1],
    [-g, 0, -1],
    [-g, 0, 1],
  ];
  const faces = [
    [0, 11, 5],
    [0, 5, 1],
    [0, 1, 7],
    [0, 7, 10],
    [0, 10, 11],
    [1, 5, 9],
    [5, 11, 4],
    [11, 10, 2],
    [10, 7, 6],
    [7, 1, 8],
    [3, 9, 4],
    [3, 4, 2],
    [3, 2, 6],
    [3, 6, 8],
    [3, 8, 9],
    [4, 9, 5],
    [2, 4, 11],
    [6, 2, 10],
    [8, 6, 7],
    [9, 8, 1],
  ];
  const shared = new Map<string, number>();
  const directions: number[] = [];
  const triangles: number[] = [];
  const add = (a: number, b: number, c: number, i: number, j: number): number => {
    const p = [0, 1, 2].map((d) => ((frequency - i - j) * v[a][d] + i * v[b][d] + j * v[c][d]) / frequency);
    const l = Math.hypot(p[0], p[1], p[2]);
    return directions.push(p[0] / l, p[1] / l, p[2] / l) / 3 - 1;
  };
  for (const [a, b, c] of faces) {
    const own = new Int32Array((frequency + 1) ** 2).fill(-1);
    const id = (i: number, j: number): number => {
      const at = i * (frequency + 1) + j;
      if (own[at] >= 0) return own[at];
      const k = frequency - i - j;
      if (i > 0 && j > 0 && k > 0) {
        own[at] = add(a, b, c, i, j);
        return own[at];
      }
      // On the face's border places are named by what they are made of, so that neighbouring faces share them.
      const key = [
        [a, k],
        [b, i],
        [c, j],
      ]
        .filter(([, w]) => w > 0)
        .sort((p, q) => p[0] - q[0])
        .join(';');
      own[at] = shared.get(key) ?? add(a, b, c, i, j);
      shared.set(key, own[at]);
      return own[at];
    };
    for (let i = 0; i < frequency; i++)
      for (let j = 0; j < frequency - i; j++) {
        triangles.push(id(i, j), id(i + 1, j), id(i, j + 1));
        if (i + j < frequency - 1) triangles.push(id(i + 1, j), id(i + 1, j + 1), id(i, j + 1));
      }
  }
  const made = { directions: Float64Array.from(directions), triangles: Uint32Array.from(triangles) };
  spheres.set(frequency, made);
  return { directions: made.directions, triangles: made.triangles.slice() };
}
