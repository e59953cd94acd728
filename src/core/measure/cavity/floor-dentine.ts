import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorProper } from '../../segment/cavity/floor-proper.ts';
import type { Floor } from '../../segment/cavity/floors.ts';
import { signedDistance } from '../../spatial/surface.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';

const STATS = ['p05', 'median'] as const;
/** The same with the floor's ends moved by a twentieth of its area: on a floor under a slope they decide its least depth. */
const MOVED = [
  [0.05, 0.1],
  [0.45, 0.55],
] as const;
/** mm beyond which nothing is asked. */
const FAR = 4;

/**
 * Depth of the pulpal floor under the dentine surface, where the master carries one.
 * @formula signed least distance of the floor's points to the dentine surface, + inside the dentine; 5 % and median by area
 * @units mm
 * @frame tooth
 * @fails no-dentine, no-pulpal-floor
 * @source own definition, docs/definitions.md
 * @example a floor half a millimetre under a level dentine surface reads 0.5
 */
export function floorDentine(a: CavityAnatomy): Reading[] {
  const name = 'floor.dentine';
  const { dej } = a.master;
  if (!dej) return refusal(name, null, STATS, 'no-dentine');
  if (!a.pulpal) return refusal(name, null, STATS, 'no-pulpal-floor');
  const p = a.region.mesh.positions;
  const found = a.pulpal.vertices.flatMap((v) => {
    const d = signedDistance(dej, p[3 * v], p[3 * v + 1], p[3 * v + 2], FAR);
    return d === null ? [] : [{ v, d: -d }];
  });
  if (found.length < a.pulpal.vertices.length / 2) return refusal(name, null, STATS, 'no-number');
  const proper = new Set(floorProper(a, a.pulpal));
  const of = (list: typeof found, shares: readonly number[] = [0.05, 0.5]): number[] =>
    weightedQuantiles(
      withoutNoise(
        list.map((f) => f.d),
        a.alignment.noise,
      ),
      list.map((f) => a.region.areas[f.v]),
      shares,
    );
  const inner = found.filter((f) => proper.has(f.v));
  const values = of(inner.length ? inner : found);
  // With the rounding into its walls a floor would be so much shallower.
  const wide = of(found);
  return STATS.map((stat, i) => {
    const [low, high] = of(inner.length ? inner : found, MOVED[i]);
    const { v } = found.reduce((x, y) => (Math.abs(y.d - values[i]) < Math.abs(x.d - values[i]) ? y : x));
    return reading({
      name,
      stat,
      value: values[i],
      U: expanded(
        a.alignment.pointError,
        (stat === 'median' ? 0.1 : 0.5) * a.alignment.noise,
        Math.abs(wide[i] - values[i]),
        (high - low) / Math.sqrt(3),
        methodUncertainty(name, stat),
      ),
      at: { point: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] },
      coverage: found.length / (a.pulpal as Floor).vertices.length,
      samples: found.length,
    });
  });
}
