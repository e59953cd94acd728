import type { Alignment } from '../../align/align.ts';
import type { Master } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { TargetRegion } from '../../segment/target.ts';
import { closestPoint, newClosest, signOf } from '../../spatial/surface.ts';

/** mm beyond the nearest point within which a place may still be the nearest once noise is averaged. */
const NEAR = 0.12;

/** Mean over a vertex and those beside it: the least of single noisy points would lie under the least of the true ones. */
function aroundMean(adjacency: TargetRegion['adjacency'], of: Float64Array, v: number): number {
  let sum = of[v];
  let n = 1;
  for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
    const d = of[adjacency.list[i]];
    if (Number.isNaN(d)) continue;
    sum += d;
    n++;
  }
  return sum / n;
}

/**
 * How near the cut comes to the pulp, where the master carries a pulp body.
 * @formula least distance from the prepared surface (each point averaged with those beside it) to the pulp body; 0 where the cut has reached it
 * @units mm
 * @frame tooth
 * @fails no-pulp, nothing-prepared
 * @source own definition, docs/definitions.md
 * @example a floor 1.2 mm over the pulp's roof reads 1.2
 */
export function pulpDistance(region: TargetRegion, alignment: Alignment, { pulp }: Master): Reading[] {
  if (!pulp) return refusal('pulp.distance', null, ['min'], 'no-pulp');
  const { mesh, prepared } = region;
  const p = mesh.positions;
  const hit = newClosest();
  const distance = new Float64Array(prepared.length).fill(Number.NaN);
  let bound = Infinity;
  let samples = 0;
  for (let v = 0; v < prepared.length; v++) {
    if (!prepared[v]) continue;
    samples++;
    if (!closestPoint(pulp, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit, bound)) continue;
    distance[v] = signOf(pulp, hit, p[3 * v], p[3 * v + 1], p[3 * v + 2]) * Math.sqrt(hit.distanceSquared);
    bound = Math.min(bound, Math.max(0, distance[v]) + NEAR);
  }
  let least = Infinity;
  let where = -1;
  for (let v = 0; v < prepared.length; v++) {
    if (!(distance[v] < bound)) continue;
    const d = aroundMean(region.adjacency, distance, v);
    if (d >= least) continue;
    least = d;
    where = v;
  }
  if (where < 0) return refusal('pulp.distance', null, ['min'], 'nothing-prepared');
  return [
    reading({
      name: 'pulp.distance',
      stat: 'min',
      value: Math.max(0, least),
      U: expanded(alignment.pointError, alignment.noise, 0.005),
      at: { point: [p[3 * where], p[3 * where + 1], p[3 * where + 2]] },
      samples,
    }),
  ];
}
