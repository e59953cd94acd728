import type { Alignment } from '../../align/align.ts';
import type { Master } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { TargetRegion } from '../../segment/target.ts';
import { closestPoint, newClosest, signOf } from '../../spatial/surface.ts';

/**
 * How near the cut comes to the pulp; only for masters that carry a pulp body.
 * @formula least distance from the prepared surface to the pulp body; 0 where the cut has reached it
 * @units mm
 * @frame tooth
 * @fails nothing-prepared (no body, no reading)
 * @source measures.md 6, `pulp.distance`
 * @example a floor 1.2 mm over the pulp's roof reads 1.2
 */
export function pulpDistance(region: TargetRegion, alignment: Alignment, { pulp }: Master): Reading[] {
  if (!pulp) return [];
  const { mesh, prepared } = region;
  const p = mesh.positions;
  const hit = newClosest();
  let least = Infinity;
  let where = -1;
  let samples = 0;
  for (let v = 0; v < prepared.length; v++) {
    if (!prepared[v]) continue;
    samples++;
    if (!closestPoint(pulp, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit, least)) continue;
    const d = Math.sqrt(hit.distanceSquared);
    if (d >= least) continue;
    where = v;
    least = signOf(pulp, hit, p[3 * v], p[3 * v + 1], p[3 * v + 2]) < 0 ? 0 : d;
    if (least === 0) break;
  }
  if (where < 0) return refusal('pulp.distance', null, ['min'], 'mm', 'nothing-prepared');
  return [
    reading({
      name: 'pulp.distance',
      stat: 'min',
      unit: 'mm',
      value: least,
      // The least of many noisy points lies under the least of the true ones.
      U: expanded(alignment.pointError, alignment.noise, 0.005),
      at: { point: [p[3 * where], p[3 * where + 1], p[3 * where + 2]] },
      samples,
    }),
  ];
}
