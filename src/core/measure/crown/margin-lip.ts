import type { Reading } from '../../result/reading.ts';
import { present, smoothAround } from '../../segment/around.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { aroundStats } from '../around-stats.ts';
import { alongFinishLine, type CrownContext, marginHeights } from './context.ts';

/** Half window of the smoothing round the tooth, in steps of 2°, and how many times the noise left by it a lip stands up. */
const HALF = 4;
const TIMES_NOISE = 3;
/** Share of a lip's height by which a scan blunts its crest (standard uncertainty). */
const CREST_BLUNTED = 0.12;

/** mm over the gingival margin under which the gum stands beside the finish line. */
const UNDER = -0.05;

/** Height of the outer edge over the floor's lowest point at each azimuth; 0 where the floor only rises inward. */
export function marginLips(c: CrownContext): (number | null)[] {
  return lipCurve(c).lips;
}

/** The curve, and the detection limit of a lip (mm). */
function lipCurve(c: CrownContext): { lips: (number | null)[]; least: number } {
  const heights = marginHeights(c);
  const raw = c.anatomy.profiles.map((p, k) => (p?.wall ? lipOf(p, p.wall.from, (heights[k] ?? 0) < UNDER) : null));
  const smooth = smoothAround(raw, HALF);
  // The highest of many noisy points exceeds the lowest by noise alone; only an excess over three times the scatter is a lip.
  const least = TIMES_NOISE * noiseLeft(raw, smooth, HALF);
  return { lips: smooth.map((v) => (v === null ? null : v > least ? v : 0)), least };
}

/** The lowest point is taken as a mean of three: a single one is noise. */
function lipOf(p: Profile, wallFrom: number, inTrench: boolean): number {
  const mean = (i: number): number => {
    let s = 0;
    let n = 0;
    for (let j = Math.max(0, i - 1); j <= Math.min(p.z.length - 1, i + 1); j++) {
      s += p.z[j];
      n++;
    }
    return s / n;
  };
  let low = Infinity;
  let lowAt = 0;
  for (let i = 1; i < Math.max(3, wallFrom); i++)
    if (mean(i) < low) {
      low = mean(i);
      lowAt = i;
    }
  return crest(p, lowAt, inTrench) - low;
}

/** The edge's own height: the highest point seen on either side of it, which a blunt scan keeps a little under the true edge. */
function crest(p: Profile, lowAt: number, inTrench: boolean): number {
  // Outside of a trench's floor rises the gum, which is no edge of the tooth.
  const near = [...p.z.slice(0, Math.min(lowAt + 1, 5)), ...(inTrench ? [] : p.outside.z.slice(0, 3))];
  return Math.min(p.finish.z, Math.max(...near));
}

/**
 * Lip: how far the outer edge of the margin stands over the lowest point of the floor inside it (a trough left by a cutter
 * sunk deeper than half its tip).
 * @formula z(edge) − min z(floor between edge and wall), not below 0, smoothed over about 1 mm
 * @units mm
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a floor that dips 0.1 mm under its own edge reads 0.1
 */
export function marginLip(c: CrownContext): Reading[] {
  const { lips, least } = lipCurve(c);
  const highest = Math.max(0, ...present(lips));
  return aroundStats({
    name: 'margin.lip',
    values: lips,
    ...alongFinishLine(c),
    stats: ['median', 'p95', 'max'],
    each: 0.4 * c.anatomy.alignment.noise,
    // U is the detection limit at least: what was only just found may be none. A thin crest is blunted in any scan.
    common: Math.hypot(least / 2, CREST_BLUNTED * highest),
    reason: 'no-finish-line',
  });
}
