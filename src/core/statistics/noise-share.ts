import { median } from './quantile.ts';

/** Weight of a local quadratic's middle place against a mean's: 9/4, Savitzky–Golay's for wide windows. */
const CENTRE = 2.25;

/** Share of a noise's standard deviation that a local quadratic over ± half places leaves. */
const leftBySmoothing = (half: number): number => Math.sqrt(CENTRE / (2 * half + 1));

/** The same of a local quadratic over ± half places less the mean over ± wide, which has a part of the noise of its own. */
export const leftOffMean = (half: number, wide: number): number => Math.sqrt(CENTRE / (2 * half + 1) - 1 / (2 * wide + 1));

/** Neighbouring places share a part of their noise, so that smoothing leaves more of it than of noise of their own. */
export const SHARED = 1.25;

/**
 * Standard deviation of single places' noise, from how far they lie off the smoothed curve.
 * @formula RMS(raw − smoothed) ÷ √(1 − g²), g = √(2.25 ÷ (2 half + 1))
 * @source own definition, docs/definitions.md
 */
export function noiseOf(raw: readonly (number | null)[], smoothed: readonly (number | null)[], half: number): number {
  let s = 0;
  let n = 0;
  raw.forEach((r, k) => {
    const q = smoothed[k];
    if (r === null || q === null) return;
    s += (r - q) ** 2;
    n++;
  });
  return n === 0 ? 0 : Math.sqrt(s / n / (1 - leftBySmoothing(half) ** 2));
}

/**
 * Standard deviation of the noise that is left in a smoothed curve, from how far the places lie off it.
 * @formula 1.25 g × the places' own noise
 * @source own definition, docs/definitions.md
 */
export const noiseLeft = (raw: readonly (number | null)[], smoothed: readonly (number | null)[], half: number): number =>
  SHARED * leftBySmoothing(half) * noiseOf(raw, smoothed, half);

/**
 * Values drawn in towards their median by the share of their spread that is noise, so that their extremes lean neither way. Noise always
 * widens a spread: of a margin as wide everywhere the 5 % and 95 % come out at its width.
 * @formula median + (v − median) √(1 − σn² ÷ σ²), σ the values' own standard deviation, σn their noise's; all at the median where σn ≥ σ
 * @source own definition, docs/definitions.md
 * @example a constant read with noise 0.02: every value becomes the median
 */
export function withoutNoise(values: readonly number[], noise: number): number[] {
  if (values.length < 3 || !(noise > 0)) return [...values];
  const middle = median(values);
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  const variance = values.reduce((s, v) => s + (v - mean) ** 2, 0) / (values.length - 1);
  const share = variance > 0 ? Math.sqrt(Math.max(0, 1 - (noise * noise) / variance)) : 0;
  return values.map((v) => middle + (v - middle) * share);
}
