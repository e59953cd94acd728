import { unitOf } from '../catalogue/catalogue.ts';
import type { HandMethod, Stat } from '../catalogue/terms.ts';
import type { Reading } from '../result/reading.ts';

/** A reading by hand: somewhere from lo to hi. A gauge that passes at 1.0 and not at 1.5 reads 1.0 to 1.5. */
export interface HandReading {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly method: HandMethod;
  readonly lo: number;
  readonly hi: number;
}

interface Question {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: string;
}
export const keyOf = (q: Question): string => `${q.name}|${q.zone ?? ''}|${q.stat}`;

/**
 * Puts the instructor's readings over the scan's: at a place that was read by hand the hand's interval counts. Its middle
 * and half width stand as value and U, so that the same decision rule holds: inside only when all of the interval is.
 */
export function withHand(readings: readonly Reading[], hand: readonly HandReading[]): Reading[] {
  const known = new Map(readings.map((r) => [keyOf(r), r]));
  const own = new Set(hand.map(keyOf));
  return [
    ...readings.filter((r) => !own.has(keyOf(r))),
    ...hand.map((h): Reading => {
      const scanned = known.get(keyOf(h));
      return {
        name: h.name,
        zone: h.zone,
        stat: h.stat,
        unit: unitOf(h.name, h.stat),
        value: (h.lo + h.hi) / 2,
        U: (h.hi - h.lo) / 2,
        at: scanned?.at ?? null,
        coverage: scanned?.coverage ?? null,
        samples: 1,
        reason: null,
        byHand: true,
      };
    }),
  ];
}
