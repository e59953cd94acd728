import { SECTORS } from '../linalg/sectors.ts';
import type { Curves } from '../result/curves.ts';
import type { Reading } from '../result/reading.ts';
import type { Rubric } from '../score/rubric.ts';
import type { Band } from '../score/verdict.ts';
import { BINS, type ErrorCurve } from './habit.ts';

/** Share of the ring that must have been read for a curve round the tooth. */
const COVERED = 0.4;
const DEGREES = 360 / BINS;

/** Signed distance outside a band: below it negative, above it positive, inside 0. @units as the reading */
export const outside = (value: number, { lo, hi }: Band): number =>
  lo !== null && value < lo ? value - lo : hi !== null && value > hi ? value - hi : 0;

/** The side or line angle that a place lies on; null for one that lies on none. */
function sectorOf(zone: string | null) {
  const words = zone?.split(' ') ?? [];
  return SECTORS.find((s) => words.includes(s.name)) ?? null;
}

export interface NamedCurve {
  readonly reading: string;
  readonly unit: string;
  readonly bins: ErrorCurve;
}

/**
 * What lay outside its band round the tooth, reading by reading: from the curve along the edge where there is one, else from the readings of sides and line angles, each over its own stretch.
 * @formula signed distance outside the rubric's band, mean over a bin of 5°
 * @units as each reading
 * @fails a reading that covers less than two fifths of the ring has no curve
 */
export function errorCurves(rubric: Rubric, readings: readonly Reading[], curves: Curves): NamedCurve[] {
  const targets = rubric.criteria.flatMap((c) => c.targets);
  return [...new Set(targets.map((t) => t.reading))].flatMap((name): NamedCurve[] => {
    const own = targets.filter((t) => t.reading === name);
    const sums = new Float64Array(BINS);
    const counts = new Float64Array(BINS);
    const add = (bin: number, error: number): void => {
      const b = ((bin % BINS) + BINS) % BINS;
      sums[b] += error;
      counts[b]++;
    };
    const along = curves[name];
    if (along?.length) for (const [azimuth, value] of along) add(Math.floor(azimuth / DEGREES), outside(value, own[0].band));
    else
      for (const t of own) {
        const sector = sectorOf(t.zone);
        const r = sector && readings.find((q) => q.name === name && q.zone === t.zone && q.stat === t.stat);
        if (!sector || !r || r.value === null) continue;
        const error = outside(r.value, t.band);
        for (let a = sector.centre - sector.half; a < sector.centre + sector.half; a += DEGREES)
          add(Math.floor((a + DEGREES / 2) / DEGREES), error);
      }
    const bins = Array.from(sums, (s, b) => (counts[b] ? s / counts[b] : null));
    if (bins.filter((b) => b !== null).length < COVERED * BINS) return [];
    return [{ reading: name, unit: readings.find((r) => r.name === name)?.unit ?? 'mm', bins }];
  });
}
