import type { CriterionView, CriticalView } from '#contract/views.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';

interface Line {
  readonly id: string;
}

/** The part of a score that moving through its lines needs. */
export interface Lines<Critical extends Line = Line> {
  readonly criteria: readonly Line[];
  readonly critical: readonly Critical[];
  readonly undecided: readonly string[];
}

/** Next line of the criteria list (criteria first, then critical errors), round and round. */
export const move = (score: Lines, index: number, by: number): number => {
  const n = score.criteria.length + score.critical.length;
  return n ? (index + by + n) % n : 0;
};

/** First undecided line after `from`, or `from` when there is none. */
export function nextOpen(score: Lines, from: number): number {
  const ids = [...score.criteria.map((c) => c.id), ...score.critical.map((c) => c.id)];
  for (let k = 1; k <= ids.length; k++) {
    const i = (from + k) % ids.length;
    if (score.undecided.includes(ids[i])) return i;
  }
  return from;
}

/**
 * The line to open at: a critical error that only the measurement found, otherwise the first undecided line, otherwise the
 * top.
 */
export function firstToLookAt(score: Lines<Pick<CriticalView, 'id' | 'made' | 'decidedBy'>>): number {
  const made = score.critical.findIndex((c) => c.made === true && c.decidedBy !== 'person');
  return made >= 0 ? score.criteria.length + made : Math.max(0, nextOpen(score, -1));
}

/** Whether a level needs a reason: only outside the range that the readings allow. */
export const needsReason = (c: CriterionView, level: number): boolean => c.computed !== null && (level < c.range[0] || level > c.range[1]);

/** The curve round the tooth that shows a reading best. */
export const ringOf = (reading: string): string => findEntry(reading)?.curve ?? reading;

/** Position on the unrolled strip of the outline place nearest to an azimuth. */
export const stripAtAzimuth = (strip: readonly (readonly number[])[], azimuth: number): number => {
  const off = (p: readonly number[]): number => Math.abs(((((p[1] - azimuth) % 360) + 540) % 360) - 180);
  return strip.reduce((best, p) => (off(p) < off(best) ? p : best), strip[0] ?? [0, 0])[0];
};

/** Azimuth of the outline place nearest to a position on the unrolled strip. */
export const azimuthOnStrip = (strip: readonly (readonly number[])[], at: number): number =>
  Math.round(strip.reduce((best, p) => (Math.abs(p[0] - at) < Math.abs(best[0] - at) ? p : best), strip[0] ?? [0, 0])[1]);
