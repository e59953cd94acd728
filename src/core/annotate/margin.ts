import type { ToothShape } from '../anatomy/shape.ts';
import { azimuthOf } from '../linalg/sectors.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { median } from '../statistics/quantile.ts';
import { inTooth, type Laid } from './fit.ts';
import type { Parting } from './parting.ts';

/** Degrees between the points of the curve. */
export const EVERY = 5;
/** Height over distance from the axis up to which an open border can be a crown's end. */
const LOW = 0.5;

export interface MarginFound {
  readonly curve: Vec3[];
  /** Share of the directions in which the border between tooth and gingiva was seen. */
  readonly seen: number;
  /** mm by which a point stands out at the most from those ten degrees beside it: a margin runs evenly. */
  readonly uneven: number;
  /** Degrees of the widest stretch in which it was bridged. */
  readonly widestGap_deg: number;
}

/**
 * The gingival margin: where the target's part meets the gingiva, one point each five degrees round its axis. Directions in which a
 * neighbour hides it are bridged from both sides.
 */
export function marginOf(mesh: Mesh, { parts, concavity: c }: Parting, laid: Laid, usual: ToothShape, onBorder: Uint8Array): MarginFound {
  const p = mesh.positions;
  const n = 360 / EVERY;
  const bins: { r: number[]; z: number[]; own: boolean }[] = Array.from({ length: n }, () => ({ r: [], z: [], own: false }));
  const { start, list } = c.adjacency;
  for (let v = 0; v < parts.length; v++) {
    if (parts[v] !== PART.target) continue;
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = list[i];
      if (parts[w] !== PART.gingiva) continue;
      const q = inTooth(laid, [0, 1, 2].map((k) => (p[3 * v + k] + p[3 * w + k]) / 2) as [number, number, number]);
      const bin = bins[Math.floor(azimuthOf(q[0], q[1]) / EVERY) % n];
      bin.r.push(Math.hypot(q[0], q[1]));
      bin.z.push(q[2]);
      bin.own = true;
    }
  }
  deepen(bins, mesh, c, laid);
  // Scans of single teeth set in a block may have a gap there: the crown's own open end stands for its margin.
  for (let v = 0; v < parts.length; v++) {
    if (parts[v] !== PART.target || !onBorder[v]) continue;
    const q = inTooth(laid, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const bin = bins[Math.floor(azimuthOf(q[0], q[1]) / EVERY) % n];
    if (q[2] > LOW * Math.hypot(q[0], q[1]) || bin.own === true) continue;
    bin.r.push(Math.hypot(q[0], q[1]));
    bin.z.push(q[2]);
  }
  const known = withoutNeighbours(bins.map((b) => (b.r.length ? { r: median(b.r), z: median(b.z) } : null)));
  const seen = known.filter(Boolean).length / n;
  if (seen < 0.2) return { curve: [], seen, uneven: Infinity, widestGap_deg: 360 };
  const full = known.map((k, i) => k ?? between(known, i, (z, j) => usualRadius(usual, laid, z, j)));
  const uneven = Math.max(...full.map((p, i) => Math.abs(p.z - (full[(i + 2) % n].z + full[(i - 2 + n) % n].z) / 2)));
  const smooth = full.map((_, i) => {
    const near = [-1, 0, 1].map((d) => full[(i + d + n) % n]);
    return { r: (near[0].r + 2 * near[1].r + near[2].r) / 4, z: (near[0].z + 2 * near[1].z + near[2].z) / 4 };
  });
  const curve = smooth.map(({ r, z }, i): Vec3 => {
    const a = ((i + 0.5) * EVERY * Math.PI) / 180;
    const [x, y] = [r * Math.sin(a), r * Math.cos(a)];
    return [0, 1, 2].map((k) => laid.at[k] + laid.axes[0][k] * x + laid.axes[1][k] * y + laid.axes[2][k] * z) as [number, number, number];
  });
  return { curve, seen, uneven, widestGap_deg: EVERY * widestGap(known) };
}

/** Height of the gingival margin over the laid origin in each direction of five degrees, mm. */
export function marginHeights(curve: readonly Vec3[], laid: Laid): Float64Array {
  const out = new Float64Array(360 / EVERY);
  for (const q of curve.map((p) => inTooth(laid, p))) out[Math.floor(azimuthOf(q[0], q[1]) / EVERY) % out.length] = q[2];
  return out;
}

/** mm round the border of two parts in which its valley is looked for, and the least hollow (1/mm) that is one. */
const VALLEY = 0.5;
const LEAST_HOLLOW = 0.4;

/** The border's own place is where two fronts met; the margin lies in the valley's deepest line near it. */
function deepen(bins: { r: number[]; z: number[] }[], mesh: Mesh, c: Parting['concavity'], laid: Laid): void {
  const rough = bins.map((b) => (b.r.length ? { r: median(b.r), z: median(b.z) } : null));
  const sums = bins.map(() => ({ r: 0, z: 0, w: 0 }));
  const p = mesh.positions;
  for (let v = 0; v < c.hollow.length; v++) {
    if (c.hollow[v] < LEAST_HOLLOW) continue;
    const q = inTooth(laid, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const i = Math.floor(azimuthOf(q[0], q[1]) / EVERY) % bins.length;
    const at = rough[i];
    const r = Math.hypot(q[0], q[1]);
    if (!at || Math.hypot(r - at.r, q[2] - at.z) > VALLEY) continue;
    const w = c.hollow[v] ** 3;
    sums[i].r += w * r;
    sums[i].z += w * q[2];
    sums[i].w += w;
  }
  sums.forEach((s, i) => {
    if (s.w > 0) Object.assign(bins[i], { r: [s.r / s.w], z: [s.z / s.w] });
  });
}

type Place = { r: number; z: number };

/** mm by which a tooth's outline at its neck can grow or shrink per five degrees, and at the most across a gap. */
const RUN = { perStep: 0.25, most: 0.45 } as const;

/**
 * Beside a tight contact the border jumps outward onto the neighbour. From the facial and lingual middles, which no neighbour hides,
 * both ways round, a place counts only where the outline could have run on to it.
 */
function withoutNeighbours(places: readonly (Place | null)[]): (Place | null)[] {
  const n = places.length;
  const kept = new Array<Place | null>(n).fill(null);
  for (const start of [0, n / 2])
    for (const way of [-1, 1]) {
      let last: { r: number; k: number } | null = null;
      for (let k = 0; k <= n / 4; k++) {
        const i = (start + way * k + n) % n;
        const p = places[i];
        if (!p || (last && Math.abs(p.r - last.r) > Math.min(RUN.most, RUN.perStep * (k - last.k)))) continue;
        kept[i] = p;
        last = { r: p.r, k };
      }
    }
  return kept;
}

function widestGap(known: readonly (Place | null)[]): number {
  let [widest, run] = [0, 0];
  for (const p of [...known, ...known]) {
    run = p ? 0 : run + 1;
    widest = Math.max(widest, run);
  }
  return Math.min(widest, known.length);
}

/** Distance from the axis at which the usual form's side lies in the direction of bin `j`, at the height z over the laid origin. */
function usualRadius(usual: ToothShape, laid: Laid, z: number, j: number): number {
  const phi = ((j + 0.5) * EVERY * Math.PI) / 180;
  // Stretched along mesial and facial, a direction of the scan is another one of the form.
  const [sx, sy, sz] = laid.size;
  const own = Math.atan2(Math.sin(phi) / sx, Math.cos(phi) / sy);
  const r = usual.side(own, z / sz);
  return Math.hypot(sx * r * Math.sin(own), sy * r * Math.cos(own));
}

/** A hidden place: as high as both ends of its gap say, and as far out as they lie beyond the usual form. */
function between(known: readonly (Place | null)[], i: number, usualAt: (z: number, bin: number) => number): Place {
  const n = known.length;
  let back = 1;
  while (!known[(i - back + n) % n]) back++;
  let on = 1;
  while (!known[(i + on) % n]) on++;
  const [p, q] = [(i - back + n) % n, (i + on) % n];
  const [a, b] = [known[p] as Place, known[q] as Place];
  const f = back / (back + on);
  const z = a.z + f * (b.z - a.z);
  const beyond = (1 - f) * (a.r - usualAt(a.z, p)) + f * (b.r - usualAt(b.z, q));
  return { r: usualAt(z, i) + beyond, z };
}
