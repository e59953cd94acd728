import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorProper } from '../../segment/cavity/floor-proper.ts';
import { isScrap } from '../../segment/target.ts';
import { castRay } from '../../spatial/ray.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';

/**
 * Pulpal depth: from the floor straight up to where the tooth's surface was.
 * @formula distance along +z from each floor point that looks within 15° of the floor's plane to the master; 5 %, median, 95 % by area, without noise's share; and the floor's area
 * U holds what a floor of up to 30° would read otherwise, because where floor ends and rounding begins is a choice
 * @units mm
 * @frame tooth
 * @fails no-pulpal-floor
 * @source own definition, docs/definitions.md
 * @example a level floor 1.8 mm under a level surface reads 1.8
 */
export function depthPulpal(a: CavityAnatomy): Reading[] {
  const name = 'depth.pulpal';
  const stats = ['p05', 'median', 'p95'] as const;
  if (!a.pulpal) return refusal(name, null, stats, 'no-pulpal-floor');
  const p = a.region.mesh.positions;
  const found = a.pulpal.vertices.flatMap((v) => {
    const d = castRay(a.master.target, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], [0, 0, 1], 12);
    return d === null ? [] : [{ v, d }];
  });
  if (
    isScrap(
      a.region,
      found.map((f) => f.v),
    )
  )
    return refusal(name, null, stats, 'no-pulpal-floor');
  const proper = new Set(floorProper(a, a.pulpal));
  const of = (list: readonly { v: number; d: number }[]): number[] =>
    weightedQuantiles(
      // Of an even floor the 5 % and the 95 % of many noisy depths lie too far apart.
      withoutNoise(
        list.map((f) => f.d),
        a.alignment.noise,
      ),
      list.map((f) => a.region.areas[f.v]),
      [0.05, 0.5, 0.95],
    );
  const values = of(found.filter((f) => proper.has(f.v)));
  const wide = of(found);
  const figures = stats.map((stat, i) => {
    const { v } = found.reduce((x, y) => (Math.abs(y.d - values[i]) < Math.abs(x.d - values[i]) ? y : x));
    const noise = stat === 'median' ? 0.1 * a.alignment.noise : 0.5 * a.alignment.noise;
    const border = Math.abs(wide[i] - values[i]);
    return reading({
      name,
      stat,
      value: values[i],
      U: expanded(a.alignment.pointError, noise, border, methodUncertainty(name, stat)),
      at: { point: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] },
      coverage: found.length / a.pulpal!.vertices.length,
      samples: found.length,
    });
  });
  const { area } = a.pulpal;
  return [...figures, reading({ name: `${name}.area`, value: area, U: 0.05 * area, samples: found.length })];
}
