import { methodUncertainty } from '../catalogue/catalogue.ts';
import type { Stat } from '../catalogue/terms.ts';
import { inSector, SECTORS } from '../linalg/sectors.ts';
import { expanded, type Reading, type Refusal, reading, refusal } from '../result/reading.ts';
import { type Around, present } from '../segment/around.ts';
import { withoutNoise } from '../statistics/noise-share.ts';
import { mean, weightedQuantiles } from '../statistics/quantile.ts';
import { THRESHOLDS } from '../thresholds.ts';

export interface AroundOptions {
  readonly name: string;
  readonly values: Around;
  readonly azimuths: readonly number[];
  /** Azimuths that the preparation covers; an uncovered one is not missing. */
  readonly covered: readonly boolean[];
  readonly stats: readonly Stat[];
  /**
   * Standard uncertainty of one smoothed value (from noise or the zone's scatter), and of all values together (from
   * alignment).
   */
  readonly each: number | Scatter;
  readonly common: number;
  readonly reason: Refusal;
  /** Standard deviation of the noise left in the values: extremes are drawn in by its share (statistics/noise-share.ts). */
  readonly noise?: number;
  /** Point of the tooth frame at an azimuth index. */
  readonly point?: (k: number) => readonly [number, number, number] | undefined;
}

/**
 * A zone's own scatter: how far the single azimuths lie off the smoothed curve. Where an edge is thin, blunt or noisy they lie
 * farther off, and the zone's values are the less sure. By how much was found in the known-truth study (docs/accuracy.md).
 */
export interface Scatter {
  readonly off: Around;
  /**
   * Standard uncertainty that one unit of scatter (RMS over the zone) adds to the middle figures, to least and 5 %, and to 95 % and
   * largest. What shifts an edge often shifts it to one side, so that the two ends differ.
   */
  readonly middle: number;
  readonly low: number;
  readonly high: number;
}

/** A sector of which the preparation covers less than this share has no value of its own. */
const COVERED_LEAST = 0.3;

/** The statistics of a quantity read round the tooth: for the whole circumference and for each sector. */
export function aroundStats(o: AroundOptions): Reading[] {
  const whole = zoneStats(
    o,
    null,
    o.azimuths.map((_, k) => k),
  );
  const sectors = SECTORS.flatMap((s) =>
    zoneStats(
      o,
      s.name,
      o.azimuths.flatMap((a, k) => (inSector(a, s) ? [k] : [])),
    ),
  );
  return [...whole, ...sectors];
}

function zoneStats(o: AroundOptions, zone: string | null, indices: readonly number[]): Reading[] {
  const own = indices.filter((k) => o.covered[k]);
  if (own.length < COVERED_LEAST * indices.length) return refusal(o.name, zone, o.stats, 'not-covered');
  const there = own.filter((k) => o.values[k] !== null);
  const coverage = there.length / own.length;
  if (coverage < THRESHOLDS.coverageLeast) return refusal(o.name, zone, o.stats, o.reason, coverage);
  const v = withoutNoise(
    there.map((k) => o.values[k] as number),
    o.noise ?? 0,
  );
  const [p05, median, p95] = weightedQuantiles(
    v,
    v.map(() => 1),
    [0.05, 0.5, 0.95],
  );
  const lowest = there[v.indexOf(Math.min(...v))];
  const highest = there[v.indexOf(Math.max(...v))];
  const values: Partial<Record<Stat, [number, number]>> = {
    min: [Math.min(...v), lowest],
    p05: [p05, lowest],
    median: [median, there[there.length >> 1]],
    mean: [mean(v), there[there.length >> 1]],
    p95: [p95, highest],
    max: [Math.max(...v), highest],
  };
  return o.stats.map((stat) => {
    const [value, k] = values[stat] as [number, number];
    const middle = stat === 'median' || stat === 'mean';
    const noise = fromNoise(o.each, there, middle ? 'middle' : stat === 'min' || stat === 'p05' ? 'low' : 'high');
    return reading({
      name: o.name,
      zone,
      stat,
      value,
      U: expanded(noise, o.common, methodUncertainty(o.name, stat)),
      at: { azimuth: o.azimuths[k], point: o.point?.(k) },
      coverage,
      samples: there.length,
    });
  });
}

function fromNoise(each: number | Scatter, there: readonly number[], where: 'middle' | 'low' | 'high'): number {
  if (typeof each === 'number') return where === 'middle' ? each / Math.sqrt(Math.max(1, there.length / 6)) : each;
  const own = present(there.map((k) => each.off[k]));
  // A zone that was carried over from its surroundings alone scatters as these do.
  const off = own.length ? own : present(each.off);
  return Math.sqrt(mean(off.map((d) => d * d))) * each[where];
}

export const meanOfPresent = (values: Around): number | null => {
  const v = present(values);
  return v.length ? mean(v) : null;
};
