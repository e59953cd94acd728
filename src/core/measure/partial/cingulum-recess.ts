import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

const NAME = 'cingulum.recess';

/**
 * Recess of the cingulum: how far each pinhole stands inside of the finish line.
 * @formula least distance from the pinhole's middle at its rim to the outline, seen along the axis
 * @units mm
 * @frame tooth, seen along the axis
 * @fails no-pinhole, no-outline
 * @source own definition, docs/definitions.md
 * @example a hole whose middle stands 1.5 mm inside of the finish line reads 1.5
 */
export function cingulumRecess(c: PartialContext): Reading[] {
  if (c.pins.length === 0) return refusal(NAME, null, ['value'], 'no-pinhole');
  if (c.outline.length < 20) return c.pins.flatMap(({ zone }) => refusal(NAME, zone, ['value'], 'no-outline'));
  return c.pins.map(({ zone, pin }) => {
    const near = c.outline.reduce((a, b) =>
      Math.hypot(b.p[0] - pin.x, b.p[1] - pin.y) < Math.hypot(a.p[0] - pin.x, a.p[1] - pin.y) ? b : a,
    );
    return reading({
      name: NAME,
      zone,
      value: Math.hypot(near.p[0] - pin.x, near.p[1] - pin.y),
      // A hole's middle is that of cells of 0.1 mm.
      U: expanded(0.03, c.crown.anatomy.alignment.noise, methodUncertainty(NAME, 'value')),
      at: { point: [pin.x, pin.y, pin.rim] },
      samples: c.outline.length,
    });
  });
}
