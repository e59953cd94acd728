import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { quantile, weightedQuantiles } from '../../statistics/quantile.ts';

/** Points away from a wall's ends below which its spread would be a matter of single ones. */
const LEAST_POINTS = 5;

/**
 * Does the axial wall follow the tooth's outer surface? Spread of its depth under the master across the box, clear of its roundings into side walls, floor and pulpal floor.
 * @formula 95 % − 5 % (by area) of the shortest distance from the axial wall to the master's surface; mean of the whole wall's and of the wall's without its outermost points
 * @units mm
 * @frame tooth
 * @fails no-wall (also where it is hardly broader or higher than the scan's spacing)
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
    const within = clearBy(a.region.mesh.positions, b.axial.fitted);
    // The outermost points may lie in a rounding or not; where a wall ends is a matter of some tenths.
    const [inner, innermost] = [within(a.region.spacing / 4), within(a.region.spacing)];
    if (innermost.length < LEAST_POINTS) return refusal(name, zone, ['value'], 'no-wall');
    const spreads = [b.axial.fitted, inner, b.axial.vertices, innermost].map(spreadOf);
    const value = (spreads[0] + spreads[1]) / 2;
    const ends = (Math.max(...spreads) - Math.min(...spreads)) / 2;
    const U = expanded(a.region.depthNoise, ends, methodUncertainty(name, 'value'));
    return [reading({ name, zone, value, U, samples: b.axial.fitted.length })];
  });
}

/** Points of a wall across the arch that lie at least so many mm within its sides, foot and top. */
function clearBy(p: ArrayLike<number>, wall: readonly number[]): (mm: number) => number[] {
  const ends = [1, 2].map((k) => ({
    k,
    low: quantile(
      wall.map((v) => p[3 * v + k]),
      0.01,
    ),
    high: quantile(
      wall.map((v) => p[3 * v + k]),
      0.99,
    ),
  }));
  return (mm) => wall.filter((v) => ends.every(({ k, low, high }) => p[3 * v + k] >= low + mm && p[3 * v + k] <= high - mm));
}
