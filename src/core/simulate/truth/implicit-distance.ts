import type { Vec3 } from '../../linalg/vec.ts';

type Inside = (x: number, y: number, z: number) => number;

/**
 * Shortest distance from a point inside an implicit solid to its surface, from the solid's own formula: rays in several
 * directions give a start, then the direction is turned to the surface normal at the hit for as long as that shortens it.
 * Used for truths only; the measuring code has its own way, over meshes.
 */
export function distanceInside(inside: Inside, p: Vec3): number {
  let best = Infinity;
  for (const d of STARTS) {
    const t = hit(inside, p, d, best);
    if (t < best) best = refine(inside, p, d, t);
  }
  return best;
}

const STARTS: readonly Vec3[] = [
  [0, 0, 1],
  ...[0, 1, 2, 3, 4, 5, 6, 7].flatMap((k): Vec3[] => {
    const a = (k * Math.PI) / 4;
    return [
      [0.7 * Math.sin(a), 0.7 * Math.cos(a), Math.sqrt(0.51)],
      [Math.sin(a + 0.39), Math.cos(a + 0.39), 0],
    ];
  }),
];

function hit(inside: Inside, p: Vec3, d: Vec3, limit: number): number {
  const f = (t: number) => inside(p[0] + t * d[0], p[1] + t * d[1], p[2] + t * d[2]);
  const far = Math.min(limit, 6);
  let lo = 0;
  let flo = f(0);
  if (flo <= 0) return 0;
  const step = 0.2;
  for (let t = step; t < far + step; t += step) {
    const ft = f(t);
    if (ft > 0) {
      lo = t;
      flo = ft;
      continue;
    }
    let hi = t;
    let fhi = ft;
    for (let i = 0; i < 12; i++) {
      const m = i % 3 === 2 ? (lo + hi) / 2 : lo + ((hi - lo) * flo) / (flo - fhi);
      const fm = f(m);
      if (fm > 0) {
        lo = m;
        flo = fm;
      } else {
        hi = m;
        fhi = fm;
      }
    }
    return (lo + hi) / 2;
  }
  return Infinity;
}

function refine(inside: Inside, p: Vec3, start: Vec3, t0: number): number {
  let d = start;
  let t = t0;
  const e = 1e-4;
  for (let i = 0; i < 12; i++) {
    const q: Vec3 = [p[0] + t * d[0], p[1] + t * d[1], p[2] + t * d[2]];
    const g = [
      inside(q[0] + e, q[1], q[2]) - inside(q[0] - e, q[1], q[2]),
      inside(q[0], q[1] + e, q[2]) - inside(q[0], q[1] - e, q[2]),
      inside(q[0], q[1], q[2] + e) - inside(q[0], q[1], q[2] - e),
    ];
    const l = Math.hypot(g[0], g[1], g[2]);
    if (!(l > 0)) break;
    // Half-way turns keep the iteration from swinging where the surface is strongly curved.
    const n: Vec3 = [d[0] - g[0] / l, d[1] - g[1] / l, d[2] - g[2] / l];
    const nl = Math.hypot(n[0], n[1], n[2]);
    if (!(nl > 1e-9)) break;
    const turned: Vec3 = [n[0] / nl, n[1] / nl, n[2] / nl];
    const next = hit(inside, p, turned, t + 0.5);
    if (!(next < t - 1e-7)) break;
    d = turned;
    t = next;
  }
  return t;
}
