import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { lengthInside, nearestOn } from '../../linalg/plan.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { cornerError, edgeError } from '../uncertainty/outline-error.ts';

/**
 * Distance from the outline to each cusp tip, and how much of an oblique ridge it crosses.
 * @formula least distance from the tip to the outline; length of the oblique ridge line inside it
 * @units mm
 * @frame tooth, seen along the axis
 * @fails no-outline, no-landmark
 * @source own definition, docs/definitions.md
 * @example a tip 2 mm from the nearest margin reads 2
 */
export function outlineCusp(a: CavityAnatomy): Reading[] {
  const { cusps, ridges } = a.master.landmarks;
  const error = (index: number, [x, y]: Vec3): number =>
    expanded(
      a.alignment.pointError,
      edgeError(a, index),
      cornerError(a, index, [x, y, a.outline[index].p[2]]),
      methodUncertainty('outline.cusp', 'min'),
    );
  const out = cusps.flatMap((c): Reading[] => {
    if (a.plan.length === 0) return refusal('outline.cusp', c.name, ['min'], 'no-outline');
    const { distance, index } = nearestOn(a.plan, c.at[0], c.at[1]);
    return [
      reading({
        name: 'outline.cusp',
        zone: c.name,
        stat: 'min',
        value: distance,
        U: error(index, c.at),
        at: { point: a.outline[index].p },
        samples: a.plan.length,
      }),
    ];
  });
  if (ridges.oblique.length < 2) return out;
  if (a.plan.length === 0) return [...out, ...refusal('outline.oblique', null, ['value'], 'no-outline')];
  out.push(
    reading({
      name: 'outline.oblique',
      value: lengthInside(a.plan, ridges.oblique).inside,
      U: 2 * expanded(a.alignment.pointError, edgeError(a, null), methodUncertainty('outline.oblique', 'value')),
      samples: ridges.oblique.length,
    }),
  );
  return out;
}
