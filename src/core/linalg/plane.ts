import { leastSquares } from './least-squares.ts';
import { eigenSymmetric3 } from './solve.ts';
import { byAxis, unit, type Vec3 } from './vec.ts';

/** The plane that lies nearest to points, by least squares of the distances to it, each with the area that it stands for; null for fewer than three. */
export function planeOf(
  points: readonly Vec3[],
  areas: readonly number[] = points.map(() => 1),
): { readonly centre: Vec3; readonly normal: Vec3; readonly rms: number } | null {
  const area = areas.reduce((s, a) => s + a, 0);
  if (points.length < 3 || !(area > 0)) return null;
  const centre = byAxis((k) => points.reduce((s, p, i) => s + areas[i] * p[k], 0) / area);
  const m = new Array<number>(9).fill(0);
  points.forEach((p, at) => {
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m[3 * i + j] += (areas[at] * (p[i] - centre[i]) * (p[j] - centre[j])) / area;
  });
  const { values, vectors } = eigenSymmetric3(m);
  return { centre, normal: vectors[0], rms: Math.sqrt(Math.max(0, values[0])) };
}

/** mm: points nearer than this to one line span no plane. */
const LEAST_SPREAD = 1;

/** Least-squares plane over (x, y) with its normal, and how far its points stand off the line that fits them best, seen along the axis, times √n. */
export function planeThrough(points: readonly Vec3[]): { readonly normal: Vec3; readonly spread: number } | null {
  const n = points.length;
  if (n < 3) return null;
  const [mx, my] = [0, 1].map((k) => points.reduce((s, p) => s + p[k], 0) / n);
  const sum = (f: (x: number, y: number) => number): number => points.reduce((s, p) => s + f(p[0] - mx, p[1] - my), 0);
  const [xx, xy, yy] = [sum((x) => x * x), sum((x, y) => x * y), sum((_, y) => y * y)];
  const least = (xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy);
  if (!(least > LEAST_SPREAD ** 2)) return null;
  const s = leastSquares(points.map((p) => ({ f: [1, p[0], p[1]], x: p[2], w: 1 })));
  return s && { normal: unit([-s[1], -s[2], 1]), spread: Math.sqrt(least) };
}
