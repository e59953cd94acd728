import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';
import { isSeenWhole } from './groove-place.ts';

/** mm by which a groove's depth may be wrong for a millimetre of scan noise. */
const LIPS = 0.7;

const NAMES = ['groove.depth', 'groove.width'] as const;

/**
 * Grooves in the prepared walls of a partial crown: depth and width of each.
 * @formula at levels 0.12 mm apart the wall is cut across the axis; in each contour a round cutter's section (or, of a box, straight sides) is fitted to the notch and meets the wall's line at its lips; width = distance of the lips, depth = how far the cutter's lowest place (of a box, the middle half of its bottom) lies under the chord between them; medians over the levels
 * @units mm; zone = the side the groove is on
 * @frame tooth
 * @fails no-groove-cut, not-seen (only its upper part was found)
 * @source own definition, docs/definitions.md
 * @example a half-round groove of radius 0.5 in a flat wall reads 0.5 deep and 1.0 wide
 */
export function groove(c: PartialContext): Reading[] {
  if (c.grooves.length === 0) return NAMES.flatMap((n) => refusal(n, null, ['median'], 'no-groove-cut'));
  return c.grooves.flatMap(({ zone, groove: g }): Reading[] => {
    if (!isSeenWhole(c, g)) return NAMES.flatMap((n) => refusal(n, zone, ['median'], 'not-seen'));
    const common = { zone, stat: 'median' as const, samples: g.levels, at: { azimuth: g.azimuth, point: g.from } };
    const { noise: scanned } = c.crown.anatomy.alignment;
    const noise = scanned / Math.sqrt(g.levels);
    // Both lips' lines are taken from a few places each, all along the groove alike.
    const lips = LIPS * scanned;
    return [
      reading({
        name: 'groove.depth',
        value: g.depth,
        U: expanded(noise, g.uDepth, lips, methodUncertainty('groove.depth', 'median')),
        ...common,
      }),
      reading({
        name: 'groove.width',
        value: g.width,
        U: expanded(noise, g.uWidth, methodUncertainty('groove.width', 'median')),
        ...common,
      }),
    ];
  });
}
