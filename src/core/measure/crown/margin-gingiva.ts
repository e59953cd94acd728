import type { Reading } from '../../result/reading.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { aroundStats } from '../around-stats.ts';
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
  return aroundStats({
    name: 'margin.gingiva',
    values: marginHeights(c),
    ...alongFinishLine(c),
    stats: ['min', 'p05', 'median', 'mean', 'p95', 'max'],
    each: { off: finishScatter(c), middle: 0.5, low: 1.1, high: 0.8 },
    common: c.anatomy.alignment.pointError,
    noise: noiseLeft(
      c.anatomy.profiles.map((p) => p?.finish.z ?? null),
      c.finishZ,
      c.half,
    ),
    reason: 'no-finish-line',
  });
}
