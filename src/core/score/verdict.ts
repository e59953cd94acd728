import type { Reading } from '../result/reading.ts';

/** A tolerance: both ends in the reading's unit; null leaves an end open. */
export interface Band {
  readonly lo: number | null;
  readonly hi: number | null;
}

/** `none`: there is no reading. `skipped`: the tooth has no such place. */
export const VERDICTS = ['inside', 'close', 'outside', 'none', 'skipped'] as const;
export type Verdict = (typeof VERDICTS)[number];

/**
 * Decision rule (docs/definitions.md, "Verdict"): inside when the whole of [x − U, x + U] lies in the band, outside when it lies
 * wholly beyond, otherwise too close to call. A refused reading has no verdict.
 * @example 1.0 ± 0.05 in [0.9, 1.2] is inside; 0.88 ± 0.05 is too close; 0.8 ± 0.05 is outside
 */
export function verdict(r: Pick<Reading, 'value' | 'U'>, band: Band): 'inside' | 'close' | 'outside' | 'none' {
  if (r.value === null || r.U === null) return 'none';
  // Rounding of decimal fractions must not decide a value exactly at the band's end.
  const lo = (band.lo ?? Number.NEGATIVE_INFINITY) - 1e-9;
  const hi = (band.hi ?? Number.POSITIVE_INFINITY) + 1e-9;
  const from = r.value - r.U;
  const to = r.value + r.U;
  if (from >= lo && to <= hi) return 'inside';
  if (to < lo || from > hi) return 'outside';
  return 'close';
}

export const within = (value: number, band: Band): boolean =>
  (band.lo === null || value >= band.lo - 1e-9) && (band.hi === null || value <= band.hi + 1e-9);
