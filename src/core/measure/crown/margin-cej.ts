import { heightAt } from '../../linalg/curve.ts';
import { type Reading, refusal } from '../../result/reading.ts';
import type { CrownContext } from './context.ts';
import { heightOver } from './margin-gingiva.ts';

const STATS = ['min', 'median', 'max'] as const;

/**
 * Height of the finish line over the cemento-enamel junction, where the master carries one.
 * @formula z(finish line) − z(junction) at the same azimuth
 * @units mm along the long axis, + on enamel
 * @frame tooth
 * @fails no-cej, no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line at z = 1 over a junction at z = −0.5 reads 1.5
 */
export function marginCej(c: CrownContext): Reading[] {
  const { cej } = c.anatomy.master.landmarks;
  if (!cej) return refusal('margin.cej', null, STATS, 'no-cej');
  const heights = c.finishZ.map((z, k) => {
    const j = heightAt(cej, c.azimuths[k]);
    return z === null || j === null ? null : z - j;
  });
  return heightOver(c, 'margin.cej', heights, STATS);
}
