import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { planeThrough } from '../../linalg/plane.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { dot, toDegrees, unit } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { properPlane } from '../../segment/cavity/floor-proper.ts';
import { floorError } from '../uncertainty/fit-error.ts';

/** mm within which a cusp's tip is set on a master. */
const TIP = 0.1;

/**
 * Tilt of the pulpal floor to the plane through the cusp tips, besides its tilt to the axis.
 * @formula angle between the normals of the floor's plane (as for floor.pulpal.tilt) and of the least-squares plane z = a + bx + cy through the master's cusp tips
 * @units degrees
 * @frame tooth
 * @fails no-pulpal-floor, no-landmark where fewer than three cusps span a plane
 * @source own definition, docs/definitions.md
 * @example a level floor under cusps that rise by 1 in 10 to facial reads 5.7
 */
export function floorCusps(a: CavityAnatomy): Reading[] {
  const name = 'floor.cusps';
  if (!a.pulpal) return refusal(name, null, ['value'], 'no-pulpal-floor');
  const plane = planeThrough(a.master.landmarks.cusps.map((c) => c.at));
  if (!plane) return refusal(name, null, ['value'], 'no-landmark');
  const { b, c, flat } = properPlane(a, a.pulpal);
  const floor = unit([-b, -c, 1]);
  const across = Math.min(1, dot(floor, plane.normal));
  const { alongX, alongY } = floorError(a, a.pulpal);
  const border = toDegrees(Math.hypot(b - a.pulpal.plane.b, c - a.pulpal.plane.c)) / 2;
  return [
    reading({
      name,
      value: toDegrees(Math.acos(across)),
      // Both planes are the master's and the scan's own: a turn of the whole only enters through the floor.
      U: expanded(
        toDegrees(Math.hypot(alongX, alongY)),
        toDegrees(a.alignment.turnError),
        border,
        toDegrees(TIP / plane.spread),
        toDegrees(Math.atan(flat)) / 4,
        methodUncertainty(name, 'value'),
      ),
      at: { azimuth: azimuthOf(plane.normal[0] - floor[0], plane.normal[1] - floor[1]), point: a.pulpal.centre },
      samples: a.pulpal.vertices.length,
    }),
  ];
}
