import type { Unit } from '../result/reading.ts';

/** How an instructor read something without a scan, and in which steps that method reads. */
export const HAND_METHODS = {
  probe: { word: 'probe', step: 0.5 },
  gauge: { word: 'gauge', step: 0.5 },
  explorer: { word: 'explorer', step: 0.1 },
  wax: { word: 'wax sheets', step: 0.32 },
  eye: { word: 'by eye or feel', step: 0.5 },
} as const;
export type HandMethod = keyof typeof HAND_METHODS;

/** A reading by hand: somewhere from lo to hi. A gauge that passes at 1.0 and not at 1.5 reads 1.0 to 1.5. */
export interface HandReading {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly method: HandMethod;
  readonly unit: string;
  readonly lo: number;
  readonly hi: number;
}

const DEGREES =
  /^(taper|toc|wall\.(lean|angle)|draw|margin\.exit|cavosurface|divergence|slice|form\.occlusal$|planes\.facial\.angle)|\.(tilt|angle|parallel)$/;

/** Unit in which a reading of that name is given, for where no scan says it. */
export function unitOf(name: string): Unit {
  if (DEGREES.test(name)) return 'deg';
  if (/\.area$/.test(name)) return 'mm2';
  if (/\.volume$/.test(name)) return 'mm3';
  if (/\.(share|coverage|incline)$|^margin\.form/.test(name)) return 'share';
  if (/\.ratio$/.test(name)) return 'ratio';
  return /corners$|^planes\.facial$/.test(name) ? 'count' : 'mm';
}

/**
 * Puts the instructor's readings over the scan's: at a place that was read by hand the hand's interval counts. Its middle
 * and half width stand as value and U, so that the same decision rule holds: inside only when all of the interval is.
 */
export function withHand<
  R extends { name: string; zone: string | null; stat: string; value: number | null; U: number | null; reason: string | null },
>(readings: readonly R[], hand: readonly HandReading[], blank: (h: HandReading) => R): R[] {
  const key = (r: { name: string; zone: string | null; stat: string }): string => `${r.name}|${r.zone ?? ''}|${r.stat}`;
  const known = new Map(readings.map((r) => [key(r), r]));
  const own = new Set(hand.map(key));
  return [
    ...readings.filter((r) => !own.has(key(r))),
    ...hand.map((h) => ({ ...(known.get(key(h)) ?? blank(h)), value: (h.lo + h.hi) / 2, U: (h.hi - h.lo) / 2, reason: null })),
  ];
}
