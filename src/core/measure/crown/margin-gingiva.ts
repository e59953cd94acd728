import type { Stat } from '../../catalogue/terms.ts';
import type { Reading } from '../../result/reading.ts';
import type { Around } from '../../segment/around.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { aroundStats } from '../around-stats.ts';
import { blunting, coarseness } from '../uncertainty/blunting.ts';
import { finishScatter } from '../uncertainty/finish-scatter.ts';
import { alongFinishLine, type CrownContext, marginHeights } from './context.ts';

/**
 * Height of the finish line over the gingival margin.
 * @formula z(finish line) − z(gingival margin curve) at the same azimuth
 * @units mm along the long axis, + above the margin
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line at z = 1 over a margin at z = 0.4 reads 0.6
 */
export function marginGingiva(c: CrownContext): Reading[] {
  return heightOver(c, 'margin.gingiva', marginHeights(c), ['min', 'p05', 'median', 'mean', 'p95', 'max']);
}

/** Statistics of the finish line's height over some curve of the master, by azimuth. */
export const heightOver = (c: CrownContext, name: string, values: Around, stats: readonly Stat[]): Reading[] =>
  aroundStats({
    name,
    values,
    ...alongFinishLine(c),
    stats,
    each: { off: finishScatter(c), middle: 0.5, low: 1.1 * coarseness(c.anatomy.region), high: 0.8 },
    common: Math.hypot(c.anatomy.alignment.pointError, blunting(c.anatomy.region)),
    noise: noiseLeft(
      c.anatomy.profiles.map((p) => p?.finish.z ?? null),
      c.finishZ,
      c.half,
    ),
    reason: 'no-finish-line',
  });
