import { azimuthOf } from '../linalg/sectors.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { median } from '../statistics/quantile.ts';
import { inTooth, type Laid } from './fit.ts';
import { EVERY, marginHeights } from './margin.ts';
import type { Parting } from './parting.ts';

/** mm of a cell of the unrolled neck, which is as wide as the margin's points lie apart. */
const ROW = 0.2;
/** mm over the gingival margin between which the line is looked for: below, the margin's own valley is hollow. */
const FROM = 0.7;
const TO = 4;
/** Rows to both sides that a line is compared with, the next one left out. */
const AROUND = { near: 2, far: 5 } as const;
/** 1/mm that a line is more hollow than what lies above and below, and as a multiple of how much that scatters over the whole neck. */
const LINE = { least: 0.12, times: 3 } as const;
/** Cells that a line may be interrupted by, and degrees from which it is one. */
const GAP = 2;
const LEAST = 60;

export interface CejFound {
  /** In order round the tooth; closed where the whole neck shows it. */
  readonly line: readonly Vec3[];
  /** Degrees round the axis over which it was seen. */
  readonly seen_deg: number;
}

/**
 * The cementoenamel junction where it shows on the scan: the fine furrow or step that runs round the neck over the gingival margin. The
 * neck is unrolled into cells; the way round it that is more hollow than what lies above and below is followed, and given where it stands
 * out from how much the whole neck scatters. Null where no such line shows over 60°.
 * @units mm, in the scan's frame
 */
export function cejOf(mesh: Mesh, { parts, concavity: c }: Parting, laid: Laid, margin: readonly Vec3[]): CejFound | null {
  if (margin.length === 0) return null;
  const n = 360 / EVERY;
  const rows = Math.round((TO - FROM) / ROW);
  const low = marginHeights(margin, laid);
  const cells = Array.from({ length: n * rows }, () => ({ hollow: 0, x: 0, y: 0, z: 0, count: 0 }));
  const p = mesh.positions;
  for (let v = 0; v < parts.length; v++) {
    if (parts[v] !== PART.target) continue;
    const at: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const q = inTooth(laid, at);
    const i = Math.floor(azimuthOf(q[0], q[1]) / EVERY) % n;
    const row = Math.floor((q[2] - low[i] - FROM) / ROW);
    if (row < 0 || row >= rows) continue;
    const cell = cells[i * rows + row];
    cell.hollow += c.hollow[v];
    cell.x += at[0];
    cell.y += at[1];
    cell.z += at[2];
    cell.count++;
  }
  const mean = cells.map((k) => (k.count ? k.hollow / k.count : Number.NaN));
  const contrast = Float64Array.from(mean, (m, k) => {
    const [i, row] = [Math.floor(k / rows), k % rows];
    const beside: number[] = [];
    for (let d = AROUND.near; d <= AROUND.far; d++)
      for (const r of [row - d, row + d]) if (r >= 0 && r < rows && !Number.isNaN(mean[i * rows + r])) beside.push(mean[i * rows + r]);
    return Number.isNaN(m) || beside.length < 3 ? 0 : m - median(beside);
  });
  const scatter = 1.4826 * median(Array.from(contrast, Math.abs));
  const needed = Math.max(LINE.least, LINE.times * scatter);
  const way = hollowest(contrast, n, rows, needed);
  const isSeen = way.map((row, i) => contrast[i * rows + row] > needed);
  const run = longestRun(isSeen);
  if (run.length * EVERY < LEAST) return null;
  return {
    line: run.flatMap((i) => {
      const { x, y, z, count } = cells[i * rows + way[i]];
      return isSeen[i] ? [[x / count, y / count, z / count] as Vec3] : [];
    }),
    seen_deg: EVERY * run.length,
  };
}

/** One row per column of a ring of cells, next ones at most a row apart, whose sum is the largest. */
function hollowest(value: Float64Array, n: number, rows: number, enough: number): number[] {
  // Twice round and a half: the part in the middle does not feel where the way began.
  const columns = 2 * n;
  const best = new Float64Array(columns * rows);
  const from = new Int32Array(columns * rows);
  for (let i = 0; i < columns; i++)
    for (let r = 0; r < rows; r++) {
      let [sum, back] = [i === 0 ? 0 : -Infinity, r];
      for (let b = Math.max(0, r - 1); i > 0 && b <= Math.min(rows - 1, r + 1); b++)
        if (best[(i - 1) * rows + b] > sum) [sum, back] = [best[(i - 1) * rows + b], b];
      // A deep pit at one place does not draw the whole way to it.
      best[i * rows + r] = sum + Math.min(value[(i % n) * rows + r], 2 * enough);
      from[i * rows + r] = back;
    }
  let row = 0;
  for (let r = 0; r < rows; r++) if (best[(columns - 1) * rows + r] > best[(columns - 1) * rows + row]) row = r;
  const way = new Array<number>(n).fill(0);
  for (let i = columns - 1; i >= 0; i--) {
    if (i >= n / 2 && i < n / 2 + n) way[i % n] = row;
    row = from[i * rows + row];
  }
  return way;
}

/** The longest run of a ring, short interruptions included, its ends seen. */
function longestRun(seen: readonly boolean[]): number[] {
  const n = seen.length;
  let best: number[] = [];
  for (let s = 0; s < n; s++) {
    if (!seen[s]) continue;
    let last = s;
    for (let k = 1; k < n; k++) {
      if (seen[(s + k) % n]) last = s + k;
      else if (s + k - last > GAP) break;
    }
    if (last - s + 1 > best.length) best = Array.from({ length: last - s + 1 }, (_, k) => (s + k) % n);
  }
  return best;
}
