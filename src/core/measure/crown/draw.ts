import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CrownContext } from './context.ts';

/**
 * Tilt of the direction of insertion to the long axis, and the azimuth it leans to.
 * @formula ∠(draw direction, long axis); see draw-direction.ts for how the direction is found
 * @units degrees
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example a frustum tipped 4° about its base reads 4
 */
export function drawTilt(c: CrownContext): Reading[] {
  if (!c.draw) return refusal('draw.tilt', null, ['value'], 'no-wall');
  const U = expanded(toDegrees(c.anatomy.alignment.turnError), 0.2, methodUncertainty('draw.tilt', 'value'));
  return [
    reading({
      name: 'draw.tilt',
      value: c.draw.tilt,
      U,
      at: { azimuth: c.draw.azimuth },
      samples: c.taper.filter((t) => t !== null).length,
    }),
  ];
}
