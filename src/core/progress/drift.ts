import { type Told, tooFew } from './told.ts';

export interface Drift {
  /** Smoothed value after each day. */
  readonly smoothed: readonly number[];
  readonly lo: readonly number[];
  readonly hi: readonly number[];
  readonly baseline: number;
  /** Index of the first day outside its limits; null where none is. */
  readonly since: number | null;
}

/** Days of the baseline, weight of the newest day, and width of the limits in standard deviations. */
const BASE = 8;
const WEIGHT = 0.25;
const WIDTH = 3;

/**
 * Whether a tool's figure has shifted for everyone: an exponentially weighted mean of its daily medians.
 * @formula z = λ x + (1 − λ) z, λ = 0.25; limits μ ± 3 σ √(λ ÷ (2 − λ) · (1 − (1 − λ)^2i)), μ and σ from the first eight days (σ by mean absolute step ÷ 1.128)
 * @fails fewer than eight days and one more
 * @source Roberts 1959; Lucas and Saccucci 1990
 */
export function driftOf(days: readonly number[]): Told<Drift> {
  if (days.length <= BASE) return tooFew(days.length, BASE + 1);
  const base = days.slice(0, BASE);
  const mu = base.reduce((a, b) => a + b, 0) / BASE;
  const sigma = base.slice(1).reduce((s, v, i) => s + Math.abs(v - base[i]), 0) / (BASE - 1) / 1.128;
  let z = mu;
  const smoothed: number[] = [];
  const lo: number[] = [];
  const hi: number[] = [];
  let since: number | null = null;
  days.forEach((x, i) => {
    z = WEIGHT * x + (1 - WEIGHT) * z;
    const half = WIDTH * sigma * Math.sqrt((WEIGHT / (2 - WEIGHT)) * (1 - (1 - WEIGHT) ** (2 * (i + 1))));
    smoothed.push(z);
    lo.push(mu - half);
    hi.push(mu + half);
    if (since === null && i >= BASE && Math.abs(z - mu) > half) since = i;
  });
  return { given: { smoothed, lo, hi, baseline: mu, since } };
}
