import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { toDegrees, toRadians } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { noiseLeft, withoutNoise } from '../../statistics/noise-share.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { type CrownContext, coverageOf } from './context.ts';

/** Share of the single walls' scatter that reaches the low and the high end, as for taper.wall. */
const ENDS = { low: 1.05, high: 1.1 };

/**
 * Evenness of the walls' taper round the tooth, at the place that is tightest for the draw; and how far all walls lean together.
 * @formula even = p95 − p5 of taper.wall, its noise taken off; whole = √(a² + b²) of the least-squares fit lean(φ) = m + a cos φ + b sin φ, its azimuth the side to which the walls lean: away from where they converge most
 * @units degrees
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example walls of 6° tipped by 4° to mesial: they lean 4° to 90° as a whole, and spread by 7.97° to their own axis
 */
export function taperEven(c: CrownContext): Reading[] {
  const there = c.lean.flatMap((v, k) => (v !== null && c.anatomy.covered[k] ? [k] : []));
  const coverage = coverageOf(c, (k) => c.lean[k] !== null);
  if (coverage < THRESHOLDS.coverageLeast || !c.draw)
    return ['taper.even', 'lean.whole'].flatMap((name) => refusal(name, null, ['value'], 'no-wall', coverage));
  const raw = c.anatomy.profiles.map((p) => p?.wall?.lean ?? null);
  const apart = raw.flatMap((v, k) => (v === null || c.lean[k] === null ? [] : [(v - (c.lean[k] as number)) ** 2]));
  const scatter = apart.length ? Math.sqrt(apart.reduce((s, v) => s + v, 0) / apart.length) : 0;
  const turn = toDegrees(c.anatomy.alignment.turnError);
  const taper = there.map((k) => c.taper[k] as number);
  const own = withoutNoise(taper, noiseLeft(raw, c.lean, c.half));
  const [low, high] = weightedQuantiles(
    own,
    own.map(() => 1),
    [0.05, 0.95],
  );
  const common = { coverage, samples: there.length };
  const even = reading({
    name: 'taper.even',
    value: high - low,
    U: expanded(scatter * ENDS.low, scatter * ENDS.high, methodUncertainty('taper.even', 'value')),
    at: { azimuth: c.azimuths[there[taper.indexOf(Math.min(...taper))]] },
    ...common,
  });
  const whole = together(there.map((k) => [c.azimuths[k], c.lean[k] as number]));
  if (!whole) return [even, ...refusal('lean.whole', null, ['value'], 'no-wall', coverage)];
  // Smoothed places share their noise with those beside them.
  const independent = Math.max(1, there.length / (2 * c.half + 1));
  return [
    even,
    reading({
      name: 'lean.whole',
      value: whole.size,
      U: expanded(turn, scatter * Math.sqrt(2 / independent), methodUncertainty('lean.whole', 'value')),
      at: { azimuth: whole.azimuth },
      ...common,
    }),
  ];
}

/**
 * First harmonic of leans by azimuth.
 * @units degrees
 */
function together(
  leans: readonly (readonly [azimuth: number, lean: number])[],
): { readonly size: number; readonly azimuth: number } | null {
  const s = leastSquares(
    leans.map(([azimuth, lean]) => ({ f: [1, Math.cos(toRadians(azimuth)), Math.sin(toRadians(azimuth))], x: lean, w: 1 })),
  );
  return s && { size: Math.hypot(s[1], s[2]), azimuth: azimuthOf(-s[2], -s[1]) };
}
