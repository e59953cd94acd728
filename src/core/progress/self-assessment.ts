import { tQuantile } from '../statistics/beta.ts';
import { type Told, tooFew } from './told.ts';

export interface Judged {
  /** Own figure less the measured one; its mean, with a 95 % interval. */
  readonly bias: number;
  readonly lo: number;
  readonly hi: number;
  readonly spread: number;
  readonly isBiased: boolean;
  readonly of: number;
}
const LEAST = 3;

/**
 * How a student judges their own work against what was measured.
 * @formula mean of own − measured, 95 % by t with n − 1 degrees of freedom; spread = standard deviation
 * @fails fewer than three
 * @source Student 1908
 */
export function selfAssessment(pairs: readonly { readonly own: number; readonly measured: number }[]): Told<Judged> {
  const n = pairs.length;
  if (n < LEAST) return tooFew(n, LEAST);
  const d = pairs.map((p) => p.own - p.measured);
  const bias = d.reduce((a, b) => a + b, 0) / n;
  const spread = Math.sqrt(d.reduce((s, v) => s + (v - bias) ** 2, 0) / (n - 1));
  const half = (tQuantile(0.975, n - 1) * spread) / Math.sqrt(n);
  return { given: { bias, lo: bias - half, hi: bias + half, spread, isBiased: bias - half > 0 || bias + half < 0, of: n } };
}
