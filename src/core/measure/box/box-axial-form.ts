import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';

/**
 * Does the axial wall follow the tooth's outer surface? Spread of its depth under the master across the box.
 * @formula 95 % − 5 % (by area) of the shortest distance from the axial wall to the master's surface
 * @units mm
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example an axial wall parallel to the proximal surface reads 0
 */
export function boxAxialForm(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b): Reading[] => {
    const name = 'box.axialform';
    const zone = `box ${b.side}`;
    if (!b.axial) return refusal(name, zone, ['value'], 'no-wall');
    const [lo, hi] = weightedQuantiles(
      b.axial.vertices.map((v) => a.region.depth[v]),
      b.axial.vertices.map((v) => a.region.areas[v]),
      [0.05, 0.95],
    );
    const U = expanded(a.region.depthNoise, methodUncertainty(name, 'value'));
    return [reading({ name, zone, value: hi - lo, U, samples: b.axial.vertices.length })];
  });
}
