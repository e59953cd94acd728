import { solveSymmetric } from '../../linalg/solve.ts';
import type { Line } from '../polyline.ts';
import { PATCH, STEP } from './pieces.ts';

/** A profile's way from the finish line over the floor and up the wall. */
export interface Way {
  readonly finish: { readonly r: number; readonly z: number };
  readonly wall: Line;
  readonly r: ArrayLike<number>;
  readonly z: ArrayLike<number>;
  /** Points from … to (not included) that are taken. */
  readonly from: number;
  readonly to: number;
}

/** The curve between floor and wall: its radius, mm, and the radius's standard uncertainty. */
export interface Fillet {
  readonly radius: number;
  readonly u: number;
}

/** Rise of the floor inward (radians), its height over the finish line (mm) and the radius (mm) of what is fitted. */
type Shape = readonly [rise: number, lift: number, radius: number];

/** Steps by which derivatives are taken. */
const D: Shape = [0.005, 0.005, 0.03];
const ROUNDS = 15;
/** A radius shrinks to this share at once at the least: one of nothing has no slope to come back by. */
const SHRINKS = 0.6;
/** Places that make a fit. */
const LEAST_PLACES = 12;
/** A fit that moves the radius by less is done, mm. */
const DONE = 5e-4;
/** Neighbouring half planes that share most of their noise. */
const SHARED_BY = 2;
/** Sine of the angle between floor and wall under which they run on into each other. */
const RUNS_ON = 0.2;

/**
 * Fits one floor, one fillet and each profile's own wall to neighbouring profiles. 'runs-on' where floor and wall have no corner between
 * them; null where too little was seen or the fit does not settle: then nothing is known.
 * @formula least squares of the distances to a floor of one rise through each finish line, that profile's wall line, and an arc that touches both
 */
export function fitFillet(ways: readonly Way[], rise: number, radius: number): Fillet | 'runs-on' | null {
  let shape: Shape = [rise, 0, radius];
  let damping = 1e-2;
  let now = residuals(ways, shape);
  if (!now) return 'runs-on';
  if (now.length < LEAST_PLACES) return null;
  let best = squares(now);
  let normal: Float64Array | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const columns: Float64Array[] = [];
    for (let k = 0; k < 3; k++) {
      const moved = residuals(ways, shape.map((v, i) => v + (i === k ? D[k] : 0)) as unknown as Shape);
      if (!moved) return 'runs-on';
      columns.push(moved.map((q, i) => (q - (now as Float64Array)[i]) / D[k]));
    }
    const own = Float64Array.from({ length: 9 }, (_, i) => dot(columns[Math.floor(i / 3)], columns[i % 3]));
    normal = own;
    const gradient = columns.map((col) => -dot(col, now as Float64Array));
    const step = solveSymmetric(
      own.map((q, i) => (i % 4 === 0 ? q * (1 + damping) + 1e-9 : q)),
      gradient,
      3,
    );
    if (!step) return null;
    const next: Shape = [shape[0] + step[0], shape[1] + step[1], Math.max(SHRINKS * shape[2], shape[2] + step[2])];
    const then = residuals(ways, next);
    const sum = then ? squares(then) : Infinity;
    if (!then || sum > best) {
      damping *= 10;
      if (damping > 1e4) break;
      continue;
    }
    const moved = Math.abs(next[2] - shape[2]);
    [shape, now, best, damping] = [next, then, sum, damping / 5];
    if (moved < DONE) break;
  }
  if (!normal) return null;
  // Of the points only so many stand for themselves.
  const alone = (now.length * STEP) / PATCH / SHARED_BY - 3;
  const column = solveSymmetric(normal, [0, 0, 1], 3);
  if (!column || alone < 1) return null;
  // By how much what is open about the floor widens what is open about the radius.
  const widened = Math.sqrt(Math.max(1, column[2] * normal[8]));
  return { radius: shape[2], u: widened * openTo(ways, shape, best * (1 + 1 / alone)) };
}

/** mm by which the radius alone may grow until the squares' sum is so much: near none its first derivative says nothing. */
function openTo(ways: readonly Way[], [rise, lift, radius]: Shape, sum: number): number {
  const beyond = (by: number): boolean => {
    const then = residuals(ways, [rise, lift, radius + by]);
    return !then || squares(then) > sum;
  };
  let most = D[2];
  while (most < WIDEST && !beyond(most)) most *= 2;
  let least = most === D[2] ? 0 : most / 2;
  for (let i = 0; i < 5; i++) {
    const middle = (least + most) / 2;
    if (beyond(middle)) most = middle;
    else least = middle;
  }
  return most;
}

/** mm: no fillet of a margin is known worse than this. */
const WIDEST = 1.5;

const squares = (of: Float64Array): number => dot(of, of);

function dot(a: Float64Array, b: Float64Array): number {
  let s = 0;
  for (let i = 0; i < a.length; i++) s += a[i] * b[i];
  return s;
}

/** Distances of all points to the shape, into the air +; null where a profile's floor and wall have no corner. */
function residuals(ways: readonly Way[], [rise, lift, radius]: Shape): Float64Array | null {
  const out = new Float64Array(ways.reduce((n, w) => n + w.to - w.from, 0));
  const [fr, fz] = [-Math.cos(rise), Math.sin(rise)];
  let n = 0;
  for (const { finish, wall, r, z, from, to } of ways) {
    const det = fr * wall.dy - fz * wall.dx;
    if (Math.abs(det) < RUNS_ON) return null;
    // The floor's normal into the air is (fz, −fr), the wall's (dy, −dx).
    const [pr, pz] = [finish.r + lift * fz, finish.z - lift * fr];
    const t = ((wall.x - pr) * wall.dy - (wall.y - pz) * wall.dx) / det;
    const [cr, cz] = [pr + t * fr, pz + t * fz];
    const between = Math.acos(Math.max(-1, Math.min(1, -(fr * wall.dx + fz * wall.dy))));
    const reach = radius / Math.tan(between / 2);
    const [or, oz] = [cr - reach * fr + radius * fz, cz - reach * fz - radius * fr];
    for (let i = from; i < to; i++) {
      const [x, y] = [r[i] - cr, z[i] - cz];
      const along = -(x * fr + y * fz);
      const up = x * wall.dx + y * wall.dy;
      out[n++] =
        along < reach && up < reach
          ? radius - Math.sqrt((r[i] - or) ** 2 + (z[i] - oz) ** 2)
          : Math.min(x * fz - y * fr, x * wall.dy - y * wall.dx);
    }
  }
  return out;
}
