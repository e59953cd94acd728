import type { DepthBands } from '#contract/depth-ramp.ts';
import type { RubricFile } from '#contract/rubric.ts';

/** The target depths that colour the picture, from the rubric's own bands; wide open where it has none. */
export function bandsOf(rubric: RubricFile): DepthBands {
  const targets = rubric.criteria.flatMap((c) => c.targets);
  const band = (...names: string[]): readonly [number, number] => {
    const t = targets.find((q) => names.includes(q.reading));
    return [t?.band.lo ?? 0, t?.band.hi ?? 99];
  };
  return { occlusal: band('reduction.occlusal', 'depth.pulpal'), axial: band('reduction.axial') };
}
