import { tQuantile } from '../statistics/beta.ts';
import { type Told, tooFew } from './told.ts';

/** One attempt's reading. */
export interface Read {
  /** Attempt number, from 1. */
  readonly n: number;
  readonly value: number;
  /** Expanded uncertainty (k = 2). */
  readonly U: number;
}

export interface Trend {
  /** Per attempt. */
  readonly slope: number;
  readonly lo: number;
  readonly hi: number;
  /** Scatter from attempt to attempt beyond what the readings' own uncertainty makes, as a standard deviation. */
  readonly between: number;
  /** Whether the interval leaves 0 out. */
  readonly isChange: boolean;
}

const LEAST = 3;

/** Weighted straight line: intercept at the weighted mean, slope, and Σ w (x − x̄)². */
function line(points: readonly Read[], w: readonly number[]) {
  const sum = w.reduce((a, b) => a + b, 0);
  const mx = points.reduce((s, p, i) => s + w[i] * p.n, 0) / sum;
  const my = points.reduce((s, p, i) => s + w[i] * p.value, 0) / sum;
  const xx = points.reduce((s, p, i) => s + w[i] * (p.n - mx) ** 2, 0);
  const slope = points.reduce((s, p, i) => s + w[i] * (p.n - mx) * (p.value - my), 0) / xx;
  const Q = points.reduce((s, p, i) => s + w[i] * (p.value - my - slope * (p.n - mx)) ** 2, 0);
  return { sum, mx, xx, slope, Q };
}

/**
 * Trend of a reading over attempts, with the readings' uncertainty and the scatter between attempts as two sources.
 * @formula weighted least squares, w = 1 ÷ (u² + s²), u = U ÷ 2, s² by moments from the residuals of the line with w = 1 ÷ u² (0 when negative); 95 % by t with n − 2 degrees of freedom, its
 *   width never less than the residuals say
 * @units reading per attempt
 * @fails fewer than three attempts at different numbers
 * @source DerSimonian and Laird 1986, carried over to a line; Knapp and Hartung 2003
 * @example 1, 2, 3 at attempts 1, 2, 3: slope 1
 */
export function trendOf(points: readonly Read[]): Told<Trend> {
  const distinct = new Set(points.map((p) => p.n)).size;
  if (points.length < LEAST || distinct < 2) return tooFew(Math.min(points.length, distinct + 1), LEAST);
  const n = points.length;
  // A reading without uncertainty would outweigh all others.
  const u2 = points.map((p) => Math.max(1e-12, (p.U / 2) ** 2));
  const own = u2.map((v) => 1 / v);
  const first = line(points, own);
  const squares = own.reduce((s, w) => s + w * w, 0);
  const slopeSquares = points.reduce((s, p, i) => s + own[i] ** 2 * (p.n - first.mx) ** 2, 0);
  // Trace of the weights less what the fitted line takes up.
  const trace = first.sum - squares / first.sum - slopeSquares / first.xx;
  const s2 = Math.max(0, (first.Q - (n - 2)) / trace);
  const l = line(
    points,
    u2.map((v) => 1 / (v + s2)),
  );
  const error = Math.sqrt(Math.max(1, l.Q / (n - 2)) / l.xx);
  const half = tQuantile(0.975, n - 2) * error;
  const [lo, hi] = [l.slope - half, l.slope + half];
  return { given: { slope: l.slope, lo, hi, between: Math.sqrt(s2), isChange: lo > 0 || hi < 0 } };
}
