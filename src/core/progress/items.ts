import { fQuantile } from '../statistics/beta.ts';
import { quantile } from '../statistics/quantile.ts';
import { seeded } from '../statistics/random.ts';
import { type Told, tooFew } from './told.ts';

export interface Interval {
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
}
export interface Item {
  readonly id: string;
  /** Mean share of its points. */
  readonly difficulty: Interval;
  /** Correlation with the rest of the total; null where either never varies. */
  readonly discrimination: Interval | null;
}

const LEAST = 8;
const RESAMPLES = 500;

const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
const centred = (v: readonly number[]): Float64Array => {
  const m = mean(v);
  return Float64Array.from(v, (x) => x - m);
};

/** Mean of one quantity over a sample of the rows, and its correlation with another there; both are given less their own means, so that sums keep their digits. */
function over(rows: Int32Array, a: Float64Array, b: Float64Array): { mean: number; r: number | null } {
  let sa = 0;
  let sb = 0;
  let aa = 0;
  let bb = 0;
  let ab = 0;
  for (let k = 0; k < rows.length; k++) {
    const x = a[rows[k]];
    const y = b[rows[k]];
    sa += x;
    sb += y;
    aa += x * x;
    bb += y * y;
    ab += x * y;
  }
  const n = rows.length;
  const [va, vb] = [aa - (sa * sa) / n, bb - (sb * sb) / n];
  return { mean: sa / n, r: va < 1e-12 || vb < 1e-12 ? null : (ab - (sa * sb) / n) / Math.sqrt(va * vb) };
}

/**
 * How hard each criterion is and how well it tells the strong from the weak.
 * @formula difficulty = mean share of points; discrimination = correlation of the criterion's points with the total of the others; 95 % by bootstrap over attempts, 500 seeded resamples
 * @fails fewer than eight attempts
 * @source Henrysson 1963 for the correction; Efron 1979 for the bootstrap
 */
export function itemsOf(ids: readonly string[], shares: readonly (readonly number[])[], points: readonly number[], seed = 1): Told<Item[]> {
  const n = shares.length;
  if (n < LEAST) return tooFew(n, LEAST);
  const random = seeded(seed);
  const samples = Array.from({ length: RESAMPLES }, () => Int32Array.from({ length: n }, () => Math.floor(random.next() * n)));
  const everyone = Int32Array.from({ length: n }, (_, i) => i);
  const totals = shares.map((row) => row.reduce((s, v, j) => s + v * points[j], 0));
  return {
    given: ids.map((id, k) => {
      const shown = shares.map((row) => row[k]);
      const own = centred(shown);
      const others = centred(totals.map((t, i) => t - shown[i] * points[k]));
      const drawn = samples.map((s) => over(s, own, others));
      const value = mean(shown);
      const means = drawn.map((d) => value + d.mean);
      const { r } = over(everyone, own, others);
      const rs = drawn.flatMap((d) => (d.r === null ? [] : [d.r]));
      return {
        id,
        difficulty: { value, lo: quantile(means, 0.025), hi: quantile(means, 0.975) },
        discrimination: r === null ? null : { value: r, lo: quantile(rs, 0.025), hi: quantile(rs, 0.975) },
      };
    }),
  };
}

/**
 * Cronbach's alpha of a rubric: how far its criteria rank attempts alike.
 * @formula k ÷ (k − 1) · (1 − Σ variances of the criteria ÷ variance of the total); 95 % by F: 1 − (1 − α) F
 * @fails fewer than three attempts, fewer than two criteria, or totals that never vary
 * @source Cronbach 1951; Feldt 1965
 * @example the table of Shrout and Fleiss, judges as items: 0.9093
 */
export function alphaOf(scores: readonly (readonly number[])[]): Told<Interval> {
  const n = scores.length;
  const k = scores[0]?.length ?? 0;
  const variance = (v: readonly number[]): number => v.reduce((s, x) => s + (x - mean(v)) ** 2, 0) / (v.length - 1);
  if (n < 3 || k < 2) return tooFew(Math.min(n, k), 3);
  const total = variance(scores.map((r) => r.reduce((a, b) => a + b, 0)));
  if (total < 1e-12) return tooFew(1, 3);
  const items = Array.from({ length: k }, (_, j) => variance(scores.map((r) => r[j])));
  const alpha = (k / (k - 1)) * (1 - items.reduce((a, b) => a + b, 0) / total);
  const [d1, d2] = [n - 1, (n - 1) * (k - 1)];
  return { given: { value: alpha, lo: 1 - (1 - alpha) * fQuantile(0.975, d1, d2), hi: 1 - (1 - alpha) * fQuantile(0.025, d1, d2) } };
}
