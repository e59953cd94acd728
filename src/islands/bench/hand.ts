import type { PhraseView } from '#contract/views.ts';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';

export interface HandEntry {
  readonly first: string;
  readonly second: string;
}

/** mm: the smallest step that an explorer's tip catches on, and the largest that counts as one. */
const CATCHES = [0.05, 0.3] as const;

/** Interval of a noted reading; null while the entry is incomplete or contradictory. */
export function handInterval(method: HandMethod, { first, second }: HandEntry): readonly [number, number] | null {
  if (method === 'explorer') return first === 'no' ? [0, CATCHES[0]] : first === 'yes' ? CATCHES : null;
  const a = Number(first.replace(',', '.'));
  const b = Number(second.replace(',', '.'));
  if (first.trim() === '' || !Number.isFinite(a)) return null;
  const { step } = HAND_METHODS[method];
  if (method === 'probe') return [a - step / 2, a + step / 2];
  if (method === 'wax') return a < 0 ? null : [a * step, (a + 1) * step];
  return second.trim() === '' || !Number.isFinite(b) || b < a ? null : [a, b];
}

/** mm and degrees beyond which a figure read by hand is more likely a slip of the key than a reading. */
const MOST: Readonly<Record<string, number>> = { mm: 8, deg: 90, share: 1, ratio: 2 };

/**
 * Why an interval read by hand wants a second look; null when it is plausible. It is asked, not refused: an instrument may well say so.
 */
export function implausible(
  interval: readonly [number, number],
  unit: string,
  t: { readonly lo: number | null; readonly hi: number | null; readonly value: number | null },
): string | null {
  const [a, b] = interval;
  const most = MOST[unit];
  if (most !== undefined && Math.max(Math.abs(a), Math.abs(b)) > most) return `more than ${most} ${unit === 'deg' ? '°' : unit}`.trim();
  if (b < 0 && (t.lo ?? 0) >= 0 && unit === 'mm') return 'less than nothing';
  const ends = [t.lo, t.hi].filter((q): q is number => q !== null);
  // Ten times the band's own figure is what a lost decimal sign makes of it.
  if (ends.length > 0 && Math.min(Math.abs(a), Math.abs(b)) > 5 * Math.max(...ends.map(Math.abs), 0.5)) return 'many times the target';
  return null;
}

/** A phrase of the bank with its places filled in. */
export const filled = (body: string, place: string | null, value: string | null): string =>
  body.replaceAll('{place}', place ?? 'this place').replaceAll('{value}', value ?? 'off target');

export type Side = PhraseView['side'] | 'inside';

/** Phrases that speak of a reading on its side of the band, the most particular first, and those that speak of anything. */
export const phrasesFor = (phrases: readonly PhraseView[], reading: string, side: Side): PhraseView[] =>
  phrases
    .filter((p) => reading.startsWith(p.about) && (p.side === '' || side === '' || p.side === side))
    .sort((a, b) => b.about.length - a.about.length);

/** Side of the band that a reading lies on; empty without a reading. */
export const sideOf = (t: { value: number | null; lo: number | null; hi: number | null }): Side =>
  t.value === null ? '' : t.lo !== null && t.value < t.lo ? 'under' : t.hi !== null && t.value > t.hi ? 'over' : 'inside';
