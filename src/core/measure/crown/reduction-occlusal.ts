import { type Reading, refusal } from '../../result/reading.ts';
import { zoneDepth } from '../zone-depth.ts';
import type { CrownContext } from './context.ts';

/**
 * Depth of the prepared occlusal surface below the master, zone by zone: each cusp, the central groove, the marginal ridges.
 * @formula 5 %, median and 95 % (by area) of the shortest distance to the master's target surface
 * @units mm; mm² for the zone's area (`.area`)
 * @frame tooth
 * @fails no-landmark, no-groove, not-seen, nothing-prepared
 * @source own definition, docs/definitions.md
 * @example an occlusal surface parallel to the master's at 1.5 mm reads 1.5 in every zone
 */
export function reductionOcclusal(c: CrownContext): Reading[] {
  const { region, alignment } = c.anatomy;
  const name = 'reduction.occlusal';
  return c.zones.flatMap((z) =>
    z.lacking
      ? refusal(name, z.zone, ['p05', 'median', 'p95'], z.lacking)
      : zoneDepth({
          name,
          region,
          zone: z.zone,
          vertices: z.vertices,
          otherwise: z.otherwise,
          coverage: z.coverage,
          alignment: alignment.pointError,
          reason: 'nothing-prepared',
        }),
  );
}
