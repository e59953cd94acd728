import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

/** mm by which a groove's depth may be wrong for a millimetre of scan noise. */
const LIPS_SLIP = 1.8;

/**
 * Grooves in the prepared walls of a partial crown: depth and width of each.
 * @formula at levels 0.12 mm apart the wall is cut across the axis; in each contour width = distance of the notch's lips, where its steep sides level out, and depth = largest distance of the notch under the chord of its lips; medians over the levels
 * @units mm; zone = the side the groove is on
 * @frame tooth
 * @fails no-groove-cut
 * @source own definition, docs/definitions.md
 * @example a half-round groove of radius 0.5 in a flat wall reads 0.5 deep and 1.0 wide
 */
export function groove(c: PartialContext): Reading[] {
  if (c.grooves.length === 0)
    return [...refusal('groove.depth', null, ['median'], 'no-groove-cut'), ...refusal('groove.width', null, ['median'], 'no-groove-cut')];
  return c.grooves.flatMap(({ zone, groove: g }): Reading[] => {
    const common = { zone, stat: 'median' as const, samples: g.levels, at: { azimuth: g.azimuth, point: g.from } };
    const { noise: scanned } = c.crown.anatomy.alignment;
    const noise = scanned / Math.sqrt(g.levels);
    // Where its lips are is a matter of slopes: on a rough scan they slip inward, all along the groove alike.
    const lips = LIPS_SLIP * scanned;
    return [
      reading({ name: 'groove.depth', value: g.depth, U: expanded(noise, lips, methodUncertainty('groove.depth', 'median')), ...common }),
      reading({ name: 'groove.width', value: g.width, U: expanded(noise, methodUncertainty('groove.width', 'median')), ...common }),
    ];
  });
}
