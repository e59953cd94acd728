import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

/** Times the scan's noise by which a pinhole's bottom is unsure: it is a handful of points at the end of a shaft that few of the camera's looks reach. */
const BOTTOM = 1.5;

/**
 * Pinholes: depth of each from the rim to the bottom.
 * @formula median height of 16 rim places, 0.2 mm outside of the hole, over its lowest tenth, along the axis
 * @units mm
 * @frame tooth
 * @fails no-pinhole
 * @source own definition, docs/definitions.md
 * @example a hole 2 mm deep in a level surface reads 2
 */
export function pin(c: PartialContext): Reading[] {
  if (c.pins.length === 0) return refusal('pin.depth', null, ['value'], 'no-pinhole');
  return c.pins.map(({ zone, pin: p }) =>
    reading({
      name: 'pin.depth',
      zone,
      value: p.rim - p.bottom,
      U: expanded(BOTTOM * c.crown.anatomy.alignment.noise, methodUncertainty('pin.depth', 'value')),
      at: { point: [p.x, p.y, p.bottom] },
    }),
  );
}
