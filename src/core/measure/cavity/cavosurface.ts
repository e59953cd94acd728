import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';

/** degrees: exit angles that leave both tooth and filling strong. */
const SOUND = [80, 110] as const;

/** Exit angle at each place of the outline: means of five places, about half a millimetre of margin. */
export function cavosurfaceAlong(a: CavityAnatomy): (number | null)[] {
  const n = a.outline.length;
  return a.outline.map((_, i) => {
    const near = [-2, -1, 0, 1, 2].flatMap((j) => a.outline[(i + j + n) % n].angle ?? []);
    return near.length >= 3 ? near.reduce((s, v) => s + v, 0) / near.length : null;
  });
}

/**
 * Cavosurface angle along the outline: between the cavity's own surface at its edge and the uncut surface outside.
 * @formula ∠(way in along the wall, way out along the uncut surface), in the plane across the outline; median, 5 %, 95 %, least, largest, and the share within 80–110°
 * @units degrees; share
 * @frame tooth
 * @fails no-outline
 * @source own definition, docs/definitions.md
 * @example a wall square to the surface reads 90
 */
export function cavosurface(a: CavityAnatomy): Reading[] {
  const name = 'cavosurface';
  const stats = ['min', 'p05', 'median', 'p95', 'max'] as const;
  const n = a.outline.length;
  const along = cavosurfaceAlong(a);
  const angles = a.outline.flatMap((o, i) => (along[i] === null ? [] : [{ o, angle: along[i] as number }]));
  const coverage = n ? angles.length / n : 0;
  if (coverage < THRESHOLDS.coverageLeast)
    return [...refusal(name, null, stats, 'no-outline', coverage), ...refusal(name, null, ['share'], 'no-outline', coverage)];
  const values = angles.map((q) => q.angle);
  const [p05, median, p95] = weightedQuantiles(
    values,
    values.map(() => 1),
    [0.05, 0.5, 0.95],
  );
  const by = { min: Math.min(...values), p05, median, p95, max: Math.max(...values) };
  const common = { name, coverage, samples: values.length };
  return [
    ...stats.map((stat) => {
      const at = angles.reduce((x, y) => (Math.abs(y.angle - by[stat]) < Math.abs(x.angle - by[stat]) ? y : x)).o.p;
      return reading({ ...common, stat, value: by[stat], U: expanded(methodUncertainty(name, stat)), at: { point: at } });
    }),
    reading({
      ...common,
      stat: 'share',
      value: values.filter((v) => v >= SOUND[0] && v <= SOUND[1]).length / values.length,
      U: 0.08,
    }),
  ];
}
