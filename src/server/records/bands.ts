import type { DepthBands } from '#contract/depth-ramp.ts';
import type { RubricFile } from '#contract/rubric.ts';

/** The target depths that colour the picture, from the rubric's own bands; wide open where it has none. */
export function bandsOf(rubric: RubricFile): DepthBands {
  const band = (name: string): readonly [number, number] => {
    const t = rubric.criteria.flatMap((c) => c.targets).find((q) => q.reading === name);
    return [t?.band.lo ?? 0, t?.band.hi ?? 99];
  };
  return { occlusal: band('reduction.occlusal'), axial: band('reduction.axial') };
}
