import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import type { CrownContext } from '../crown/context.ts';
import type { PartialContext } from './context.ts';

const NAME = 'cingulum.recess';

/**
 * Recess of the cingulum: how far each pinhole stands inside of the finish line.
 * @formula least distance from the pinhole's middle at its rim to the finish line, seen along the axis
 * @units mm
 * @frame tooth, seen along the axis
 * @fails no-pinhole, no-finish-line
 * @source own definition, docs/definitions.md
 * @example a hole whose middle stands 1.5 mm inside of the finish line reads 1.5
 */
export function cingulumRecess(c: PartialContext): Reading[] {
  if (c.pins.length === 0) return refusal(NAME, null, ['value'], 'no-pinhole');
  const edge = finishLine(c.crown);
  if (edge.length < LEAST) return c.pins.flatMap(({ zone }) => refusal(NAME, zone, ['value'], 'no-finish-line'));
  return c.pins.map(({ zone, pin }) => {
    const ways = edge.map((p) => Math.hypot(p[0] - pin.x, p[1] - pin.y));
    return reading({
      name: NAME,
      zone,
      value: Math.min(...ways),
      // A hole's middle is that of cells of 0.1 mm.
      U: expanded(0.03, c.crown.anatomy.alignment.noise, methodUncertainty(NAME, 'value')),
      at: { point: [pin.x, pin.y, pin.rim] },
      samples: edge.length,
    });
  });
}

/** Places of a finish line at the least. */
const LEAST = 20;

/** The finish line's places on the covered side. */
const finishLine = (c: CrownContext): Vec3[] =>
  c.azimuths.flatMap((azimuth, k) => {
    const [r, z] = [c.finishR[k], c.finishZ[k]];
    return r === null || z === null || !c.anatomy.covered[k] ? [] : [radialPoint(azimuth, r, z)];
  });
