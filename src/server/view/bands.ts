import type { DepthBands } from '#contract/depth-ramp.ts';
import type { RubricFile } from '#contract/rubric.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import type { ColourOf } from '#core/catalogue/entry.ts';

/** Target depths for colouring the picture, from the rubric's bands; unbounded where the rubric has none. */
export function bandsOf(rubric: RubricFile): DepthBands {
  const band = (of: ColourOf): readonly [number, number] => {
    const t = rubric.criteria.flatMap((c) => c.targets).find((q) => findEntry(q.reading)?.colours === of);
    return [t?.band.lo ?? 0, t?.band.hi ?? 99];
  };
  const plate = rubric.criteria.flatMap((c) => c.targets).find((t) => t.reading === 'plate.thickness');
  return { occlusal: band('occlusal'), axial: band('axial'), plate: plate?.band.lo ?? null };
}
