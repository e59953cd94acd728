import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toDegrees, wrapDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { mean } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownContext } from './context.ts';

/** degrees by which a single wall line scatters about its neighbours at the least, and half planes that scatter together. */
const SCATTER_LEAST = 0.35;
const TOGETHER = 6;

/** Standard deviation (degrees) of a single wall line about the smoothed wall: the scan's noise, as this wall has it. */
function scatterOf(c: CrownContext): number {
  const off = c.anatomy.profiles.flatMap((p, k) => (p?.wall && c.lean[k] !== null ? [(p.wall.lean - (c.lean[k] as number)) ** 2] : []));
  return off.length ? Math.sqrt(mean(off)) : 0;
}

/**
 * Total occlusal convergence: faciolingual, mesiodistal and over all opposite pairs.
 * @formula mean over the pairs of (taper at φ + taper at φ + 180°); within ± 30° of the sectors' middles, or all round
 * @units degrees
 * @frame tooth
 * @fails not-covered; no-wall, when fewer than half of the pairs have both walls
 * @source own definition, docs/definitions.md
 * @example a frustum whose walls lean 6° has a total convergence of 12
 */
export function toc(c: CrownContext): Reading[] {
  const n = c.azimuths.length;
  const pairs = (accept: (azimuth: number) => boolean): { sums: number[]; all: number; opposite: number } => {
    const sums: number[] = [];
    let all = 0;
    let opposite = 0;
    for (let k = 0; k < n / 2; k++) {
      if (!accept(c.azimuths[k])) continue;
      all++;
      if (c.anatomy.covered[k] && c.anatomy.covered[(k + n / 2) % n]) opposite++;
      const a = c.taper[k];
      const b = c.taper[(k + n / 2) % n];
      if (a !== null && b !== null) sums.push(a + b);
    }
    return { sums, all, opposite };
  };
  const scatter = scatterOf(c);
  // A pair is counted once, from whichever of its two ends lies in the first half turn.
  const near = (centre: number) => (a: number) => Math.abs(wrapDegrees(a - centre)) <= 30 || Math.abs(wrapDegrees(a + 180 - centre)) <= 30;
  return (
    [
      ['toc.faciolingual', near(0), 0],
      ['toc.mesiodistal', near(90), 90],
      ['toc.mean', () => true, null],
    ] as const
  ).flatMap(([name, accept, azimuth]): Reading[] => {
    const { sums, all, opposite } = pairs(accept);
    if (opposite < all / 2) return refusal(name, null, ['mean'], 'not-covered');
    const coverage = sums.length / opposite;
    if (coverage < THRESHOLDS.coverageLeast) return refusal(name, null, ['mean'], 'no-wall', coverage);
    const noise = (Math.SQRT2 * Math.max(SCATTER_LEAST, scatter)) / Math.sqrt(Math.max(1, sums.length / TOGETHER));
    const U = expanded(noise, toDegrees(c.anatomy.alignment.turnError) * 0.2, methodUncertainty(name, 'mean'));
    return [
      reading({
        name,
        stat: 'mean',
        value: mean(sums),
        U,
        at: azimuth === null ? null : { azimuth },
        coverage,
        samples: sums.length,
      }),
    ];
  });
}
