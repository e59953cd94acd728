import { toRadians } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import type { Around } from '../../segment/around.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { aroundStats } from '../around-stats.ts';
import { coarseness } from '../uncertainty/blunting.ts';
import { finishScatter } from '../uncertainty/finish-scatter.ts';
import { wallScatter } from '../uncertainty/wall-scatter.ts';
import { alongFinishLine, type CrownContext } from './context.ts';

/** Width of the margin at each azimuth: both its ends are smoothed over ± 10° of the circumference (crownContext). */
export const marginWidths = (c: CrownContext): (number | null)[] =>
  c.finishR.map((r, k) => {
    const f = c.footR[k];
    return r === null || f === null ? null : Math.max(0, r - f);
  });

/** Uncertainty (mm) of both ends at each azimuth: of the finish line, and of the wall's foot, which its line carries down from the wall's middle. */
function endScatter(c: CrownContext): Around {
  const finish = finishScatter(c);
  return c.anatomy.profiles.map((p, k) => {
    const [lean, own] = [c.lean[k], finish[k]];
    if (own === null || !p?.wall || lean === null) return own;
    return Math.hypot(own, Math.sin(toRadians(wallScatter(p.wall, lean))) * (p.wall.line.y - p.wall.foot.z));
  });
}

/**
 * Margin width: horizontal distance from the finish line to where the floor runs into the primary wall.
 * @formula r(finish line) − r(foot of the wall), at least 0; the foot is where the lines of wall and floor meet, and where the floor is curved, where the wall line carried down reaches the level of the finish line
 * @units mm, radial, in the plane of the azimuth
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a 0.8 mm step round a cylinder reads 0.8
 */
export function marginWidth(c: CrownContext): Reading[] {
  const { alignment } = c.anatomy;
  return aroundStats({
    name: 'margin.width',
    values: marginWidths(c),
    ...alongFinishLine(c),
    stats: ['min', 'p05', 'median', 'mean', 'p95', 'max'],
    each: { off: endScatter(c), middle: 0.38, low: 0.5 * coarseness(c.anatomy.region), high: 1.08 },
    // Both ends move together with the pose; only its effect on where the uncut surface ends is left.
    common: 0.7 * alignment.pointError,
    noise: noiseLeft(
      c.anatomy.profiles.map((p) => (p?.wall ? p.finish.r - p.wall.foot.r : null)),
      marginWidths(c),
      c.half,
    ),
    reason: 'no-finish-line',
  });
}
