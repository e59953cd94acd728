import { solveSymmetric } from '../../linalg/solve.ts';
import { mean } from '../../statistics/quantile.ts';
import { LineSums } from '../polyline.ts';

/** mm: width of a column across the edge, two to three points of a scan. */
const COLUMN_MM = 0.3;
/** mm below the highest point that belong to the edge's crest. */
const CREST_MM = 0.25;
/** mm to either side over which a column's height is averaged to find its highest place, and within which the crest's shape is taken: of a broad cut that falls to one side its other side says nothing. */
const HIGHEST_OVER = 0.25;
const SHAPE_WITHIN = 0.6;

export interface EdgePoint {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/**
 * Height of the incisal edge by column along the arch (index = x ÷ 0.3 mm), over the middle 80 % of its length. The crest of a
 * column is where the shape through its top points peaks, so that single noisy points do not lift it. A worn or anatomical edge is
 * round, a freshly cut one is the corner of two planes: whichever fits the whole edge better is taken.
 */
export const edgeHeights = (positions: Float64Array, accept: Uint8Array | null): Map<number, EdgePoint> =>
  edgeOf(columnTops(positions, accept));

/** The edge among a tooth's columns: everything within 1.5 mm of the highest one, without its rounded ends. */
export function edgeOf(crests: ReadonlyMap<number, EdgePoint>): Map<number, EdgePoint> {
  const high = Math.max(...[...crests.values()].map((q) => q.z));
  const edge = [...crests.keys()].filter((i) => (crests.get(i) as EdgePoint).z > high - 1.5).sort((a, b) => a - b);
  const cut = Math.round(0.1 * edge.length);
  return new Map(edge.slice(cut, edge.length - cut).map((i) => [i, crests.get(i) as EdgePoint]));
}

/** Crest of every column along the arch, its rounded ends included. */
export function columnTops(positions: Float64Array, accept: Uint8Array | null): Map<number, EdgePoint> {
  const columns = new Map<number, EdgePoint[]>();
  for (let v = 0; v < positions.length / 3; v++) {
    if (accept && !accept[v]) continue;
    const p = { x: positions[3 * v], y: positions[3 * v + 1], z: positions[3 * v + 2] };
    if (p.z < 1) continue;
    const i = Math.round(p.x / COLUMN_MM);
    const list = columns.get(i);
    if (list) list.push(p);
    else columns.set(i, [p]);
  }
  const tops = new Map<number, { plain: EdgePoint; round: Crest | null; corner: Crest | null }>();
  for (const [i, list] of columns) {
    const high = Math.max(...list.map((p) => p.z));
    const crest = list.filter((p) => p.z > high - CREST_MM).sort((p, q) => p.y - q.y);
    if (crest.length < 3) continue;
    const { at, points } = highestOf(crest);
    const top = crest.filter((p) => Math.abs(p.y - at) <= SHAPE_WITHIN);
    const plain = { x: i * COLUMN_MM, y: mean(points.map((p) => p.y)), z: mean(points.map((p) => p.z)) };
    tops.set(i, {
      plain,
      round: top.length < LEAST_POINTS ? null : roundCrest(top),
      corner: top.length < LEAST_POINTS ? null : cornerCrest(top),
    });
  }
  // Compared where both exist; a column without the better one uses the other.
  const both = [...tops.values()].flatMap((t) => (t.round && t.corner ? [[t.round.misfit, t.corner.misfit] as const] : []));
  const cornered = both.length > 0 && mean(both.map((b) => b[1])) < mean(both.map((b) => b[0]));
  const crests = new Map<number, EdgePoint>();
  for (const [i, t] of tops) {
    const c = cornered ? (t.corner ?? t.round) : (t.round ?? t.corner);
    crests.set(i, c ? { x: i * COLUMN_MM, y: c.y, z: c.z } : t.plain);
  }
  return crests;
}

/** Where across the edge a column is highest on average, and the points there. */
function highestOf(crest: readonly EdgePoint[]): { at: number; points: readonly EdgePoint[] } {
  let best = { at: mean(crest.map((p) => p.y)), points: crest, z: Number.NEGATIVE_INFINITY };
  for (const { y } of crest) {
    const points = crest.filter((p) => Math.abs(p.y - y) <= HIGHEST_OVER);
    const z = mean(points.map((p) => p.z));
    if (points.length >= 3 && z > best.z) best = { at: y, points, z };
  }
  return best;
}

/** Points that a shape is fitted to at the least. */
const LEAST_POINTS = 8;

/** Where a fitted shape peaks, and its mean squared distance from the points, for as many parameters as it has. */
interface Crest {
  readonly y: number;
  readonly z: number;
  readonly misfit: number;
}

const misfitOf = (top: readonly EdgePoint[], z: (y: number) => number, parameters: number): number =>
  top.reduce((s, p) => s + (p.z - z(p.y)) ** 2, 0) / Math.max(1, top.length - parameters);

/** Parabola through the points; null where it has no peak among them. */
function roundCrest(top: readonly EdgePoint[]): Crest | null {
  const y0 = mean(top.map((p) => p.y));
  const d = top.map((p) => p.y - y0);
  const sum = (f: (d: number, p: EdgePoint) => number): number => top.reduce((s, p, i) => s + f(d[i], p), 0);
  const s2 = sum((q) => q * q);
  const s3 = sum((q) => q ** 3);
  const c = solveSymmetric(
    [top.length, 0, s2, 0, s2, s3, s2, s3, sum((q) => q ** 4)],
    [sum((_, p) => p.z), sum((q, p) => q * p.z), sum((q, p) => q * q * p.z)],
    3,
  );
  if (!c || c[2] >= -1e-6) return null;
  const peak = -c[1] / (2 * c[2]);
  if (peak < d[0] || peak > d[d.length - 1]) return null;
  const z = (y: number): number => c[0] + c[1] * (y - y0) + c[2] * (y - y0) ** 2;
  return { y: y0 + peak, z: z(y0 + peak), misfit: misfitOf(top, z, 3) };
}

/** Two lines that meet among the points, split where they fit best; null where none rises to and falls from a corner. */
function cornerCrest(top: readonly EdgePoint[]): Crest | null {
  const sums = new LineSums(
    top.map((p) => p.y),
    top.map((p) => p.z),
  );
  let best: Crest | null = null;
  for (let k = 3; k <= top.length - 3; k++) {
    const left = sums.regression(0, k);
    const right = sums.regression(k, top.length);
    if (!left || !right || left.slope <= right.slope) continue;
    const y = (right.at - left.at) / (left.slope - right.slope);
    if (y < top[0].y || y > top[top.length - 1].y) continue;
    const z = (q: number): number => (q < y ? left.at + left.slope * q : right.at + right.slope * q);
    const misfit = misfitOf(top, z, 5);
    if (!best || misfit < best.misfit) best = { y, z: z(y), misfit };
  }
  return best;
}
