import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Stat } from '../../catalogue/terms.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { smoothAround } from '../../segment/around.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { OUTLINE_STEP } from '../../segment/cavity/outline.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { median, weightedQuantiles } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { exitError } from '../uncertainty/outline-error.ts';

/** Half window, in the outline's steps of 0.1 mm, of the course from which a place's scatter is taken. */
const COURSE = 8;

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
  // Whole stretches read steeper or flatter with the strip that they are read from; single places scatter about their stretch besides.
  const strip = exitError(a, a.outline);
  const course = smoothAround(along, COURSE);
  const scatter = 1.48 * median(along.flatMap((v, i) => (v === null || course[i] === null ? [] : [Math.abs(v - (course[i] as number))])));
  const values = withoutNoise(
    angles.map((q) => q.angle),
    scatter,
  );
  const [p05, middle, p95] = weightedQuantiles(
    values,
    values.map(() => 1),
    [0.05, 0.5, 0.95],
  );
  const by = { min: Math.min(...values), p05, median: middle, p95, max: Math.max(...values) };
  const places = Math.max(1, (values.length * OUTLINE_STEP) / 0.5);
  const uOf = (stat: Stat): number =>
    expanded(strip, stat === 'median' ? scatter / Math.sqrt(places) : Math.hypot(scatter, strip), methodUncertainty(name, stat));
  const common = { name, coverage, samples: values.length };
  return [
    ...stats.map((stat) => {
      const nearest = values.reduce((best, v, i) => (Math.abs(v - by[stat]) < Math.abs(values[best] - by[stat]) ? i : best), 0);
      const at = angles[nearest].o.p;
      return reading({ ...common, stat, value: by[stat], U: uOf(stat), at: { point: at } });
    }),
    reading({
      ...common,
      stat: 'share',
      value: values.filter((v) => v >= SOUND[0] && v <= SOUND[1]).length / values.length,
      U: 0.08,
    }),
  ];
}
