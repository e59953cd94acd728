import { findEntry, titleOf } from '#core/catalogue/catalogue.ts';
import { DIGITS } from '#core/catalogue/entry.ts';
import type { Stat, Unit } from '#core/catalogue/terms.ts';
import { REFUSALS } from '#core/result/reading.ts';
import { writing } from './writing.ts';

export const UNIT_WORDS: Readonly<Record<Unit, string>> = {
  mm: 'mm',
  deg: '°',
  mm2: 'mm²',
  mm3: 'mm³',
  ratio: '',
  share: '',
  count: '',
  none: '',
};

/** A unit as it stands behind a figure. */
export const unitWords = (unit: string): string => UNIT_WORDS[unit as Unit] ?? unit;
/** Decimals of a unit; of millimetres as many as the reader wants. */
export const digitsOf = (unit: string): number => (unit === 'mm' ? Math.min(DIGITS.mm, writing().digits) : (DIGITS[unit as Unit] ?? 2));

/** "occlusal reduction, ML, thinnest (5th percentile)": a reading in the catalogue's words. */
export function readingWords(name: string, zone: string | null, stat: string): string {
  const words = findEntry(name)?.stats[stat as Stat]?.words ?? stat;
  return [titleOf(name), zone, words].filter(Boolean).join(', ');
}

/** Reason for a missing value as the end of a sentence; full sentences stay as they are. */
export const refusalWords = (reason: string | null | undefined): string =>
  reason ? ((REFUSALS as Readonly<Record<string, string>>)[reason] ?? reason) : 'not read';

/** What + and − mean of a reading, where a sign is read. */
export const signWords = (name: string): string | null => findEntry(name)?.sign ?? null;

/** A reading by hand as it was taken: an interval, never a single figure. */
export const handWords = (lo: number, hi: number, unit: string): string => {
  // Nobody reads half degrees by eye.
  const d = unit === 'deg' ? 0 : digitsOf(unit);
  return `${lo.toFixed(d)}${lo === hi ? '' : ` to ${hi.toFixed(d)}`} ${unitWords(unit)}`.trim();
};

/** A value with its U and unit, the same wherever it appears; without one the reason in words. */
export function valueWords(value: number | null, U: number | null, unit: string, reason?: string | null): string {
  if (value === null) return refusalWords(reason);
  const d = digitsOf(unit);
  // Counts have no U below one; the U of a measured figure is never smaller than its last digit.
  const least = d === 0 ? 0 : 0.5 * 10 ** -d;
  const shown = Math.max(U ?? 0, least);
  const sure = d === 0 && shown < 0.5 ? '' : ` ± ${shown.toFixed(d)}`;
  return `${value.toFixed(d)}${sure} ${unitWords(unit)}`.trim();
}

/** What was read at a place: the figure, and for a contact first whether it is open at all. */
export function foundWords(t: { reading: string; value: number | null; U: number | null; unit: string; reason?: string | null }): string {
  const figure = valueWords(t.value, t.U, t.unit, t.reason);
  if (t.value === null) return figure;
  if (t.reading.startsWith('gauge.pass')) return t.U ? 'too close to call' : t.value >= 1 ? 'passes' : 'does not pass';
  if (t.reading !== 'contact.broken') return figure;
  return `${t.value - (t.U ?? 0) > 0 ? 'open' : 'not surely open'}, ${figure}`;
}

/** What is wanted at a place: a band, or that a gauge passes. Without its unit where the figure beside it has one. */
export function wantedWords(t: { reading: string; lo: number | null; hi: number | null; unit: string }, withUnit = true): string {
  if (t.reading.startsWith('gauge.pass')) return (t.lo ?? 0) >= 1 ? 'passes' : 'does not pass';
  return bandWords(t.lo, t.hi, withUnit ? t.unit : 'none');
}

/** With its first letter large, as at the beginning of a line. */
export const capital = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;
/** A sentence with its capital and its full stop. */
export const sentence = (text: string): string => `${capital(text)}${/[.!?…]$/.test(text) ? '' : '.'}`;

/** A band in words: "0.4 to 0.8 mm", "up to 0.1 mm", "2 mm or more". */
export function bandWords(lo: number | null, hi: number | null, unit: string): string {
  const u = unitWords(unit);
  if (lo === null && hi === null) return 'any';
  if (lo === null) return `up to ${hi} ${u}`.trim();
  if (hi === null) return [lo, u, 'or more'].filter((w) => w !== '').join(' ');
  if (lo === hi) return `${lo} ${u}`.trim();
  return `${lo} to ${hi} ${u}`.trim();
}

/** How an edge stands that is judged along its length: "92 % inside, worst millimetre 0.31 mm". */
export const alongWords = (inside: number, worst: number, unit: string): string =>
  `${Math.round(100 * inside)} % inside, worst millimetre ${worst.toFixed(digitsOf(unit))} ${unitWords(unit)}`.trim();
