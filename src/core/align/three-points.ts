import { applyPoint, fromTranslation, type Matrix, multiply } from '../linalg/rigid.ts';
import { cross, length, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';

export interface PointPair {
  readonly scan: Vec3;
  readonly master: Vec3;
}

/** mm²: three points that span less than this triangle say nothing about a turn. */
export const LEAST_TRIANGLE_MM2 = 2;

const centroid = (p: readonly Vec3[]): Vec3 =>
  scale(
    p.reduce<Vec3>((s, q) => [s[0] + q[0], s[1] + q[1], s[2] + q[2]], [0, 0, 0]),
    1 / p.length,
  );

export const triangleArea = ([a, b, c]: readonly Vec3[]): number => length(cross(sub(b, a), sub(c, a))) / 2;

/** Axes of a triangle: towards its first corner, across it, out of its plane. */
function axesOf(points: readonly Vec3[], c: Vec3): readonly [Vec3, Vec3, Vec3] {
  const z = unit(cross(sub(points[1], points[0]), sub(points[2], points[0])));
  const x = unit(sub(points[0], c));
  return [x, cross(z, x), z];
}

/**
 * Rigid motion that lays three scan points on three master points as well as a turn about their middles can: planes
 * together, first corners in one direction. It is the start for the fine fit.
 * Null when either triangle is too thin to hold a turn.
 */
export function fromThreePoints(pairs: readonly PointPair[]): Matrix | null {
  const scan = pairs.map((p) => p.scan);
  const master = pairs.map((p) => p.master);
  if (pairs.length !== 3 || triangleArea(scan) < LEAST_TRIANGLE_MM2 || triangleArea(master) < LEAST_TRIANGLE_MM2) return null;
  const [cs, cm] = [centroid(scan), centroid(master)];
  const a = axesOf(scan, cs);
  const b = axesOf(master, cm);
  const m: number[] = [];
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) m.push(b[0][r] * a[0][c] + b[1][r] * a[1][c] + b[2][r] * a[2][c]);
    m.push(0);
  }
  const turn: Matrix = [...m, 0, 0, 0, 1];
  const moved = applyPoint(turn, cs);
  return multiply(fromTranslation(sub(cm, moved)), turn);
}
