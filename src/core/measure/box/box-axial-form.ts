import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';

/**
 * Does the axial wall follow the tooth's outer surface? Spread of its depth under the master across the box, clear of its roundings into the side walls.
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
    const spreadOf = (vertices: readonly number[]): number => {
      const depths = vertices.map((v) => a.region.depth[v]);
      const areas = vertices.map((v) => a.region.areas[v]);
      const [lo, hi] = weightedQuantiles(withoutNoise(depths, a.region.depthNoise), areas, [0.05, 0.95]);
      return hi - lo;
    };
    const value = spreadOf(b.axial.fitted);
    // Where the wall ends and its rounding begins is a matter of some tenths.
    const ends = (spreadOf(b.axial.vertices) - value) / 2;
    const U = expanded(a.region.depthNoise, ends, methodUncertainty(name, 'value'));
    return [reading({ name, zone, value, U, samples: b.axial.fitted.length })];
  });
}
