import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { planeOf, planeThrough } from '../../linalg/plane.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { angleBetween, scale, toDegrees, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CrownContext } from '../crown/context.ts';

const NAME = 'cusp.incline';
/** mm within which a cusp's tip is set on a master. */
const TIP = 0.1;
/** mm from a cusp's tip towards the tooth's middle between which its incline is taken: nearer, it is the rounded tip, and farther, the groove. */
const FROM = 0.25;
const TO = 1.25;
/** Points that span an incline. */
const LEAST = 12;

/**
 * Incline of the prepared cusps to the occlusal plane, which runs through the cusp tips of the tooth and, where the master carries them, of its neighbours.
 * @formula angle between the normals of the least-squares plane through the prepared occlusal points within 1.25 mm of the master's tip, 0.25 mm and more from it towards the tooth's middle, and of the plane through the tips
 * @units degrees
 * @frame tooth
 * @fails no-landmark, not-seen
 * @source own definition, docs/definitions.md
 * @example a flat cut parallel to the plane of the tips reads 0
 */
export function cuspIncline(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  const { cusps, neighbourCusps } = c.anatomy.master.landmarks;
  const plane = planeThrough([...cusps.map((q) => q.at), ...(neighbourCusps?.mesial ?? []), ...(neighbourCusps?.distal ?? [])]);
  if (!plane) return cusps.flatMap((q) => refusal(NAME, q.name, ['value'], 'no-landmark'));
  const { mesh, areas } = c.anatomy.region;
  const p = mesh.positions;
  return cusps.flatMap((q): Reading[] => {
    const zone = c.zones.find((z) => z.zone === q.name);
    const places = (zone?.vertices ?? [])
      .map((v) => ({ at: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as Vec3, area: areas[v] }))
      .filter(({ at }) => isInner(q.at, at));
    const own =
      places.length >= LEAST
        ? planeOf(
            places.map((s) => s.at),
            places.map((s) => s.area),
          )
        : null;
    if (!zone || !own) return refusal(NAME, q.name, ['value'], 'not-seen', zone?.coverage);
    const up = own.normal[2] < 0 ? scale(own.normal, -1) : own.normal;
    return [
      reading({
        name: NAME,
        zone: q.name,
        value: angleBetween(up, plane.normal),
        // What is not flat in it, over half its own length, by the root of the places that are independent.
        U: expanded(
          toDegrees(c.anatomy.alignment.turnError),
          toDegrees(TIP / plane.spread),
          toDegrees(own.rms / ((TO - FROM) / 2)) / Math.sqrt(places.length / LEAST),
          methodUncertainty(NAME, 'value'),
        ),
        at: { azimuth: azimuthOf(own.centre[0], own.centre[1]), point: own.centre },
        coverage: zone.coverage,
        samples: places.length,
      }),
    ];
  });
}

/** Whether a place lies on a cusp's slope to the tooth's middle, seen along the axis. */
function isInner(tip: Vec3, at: Vec3): boolean {
  const away = Math.hypot(tip[0], tip[1]);
  if (!(away > 0)) return false;
  const inward = -((at[0] - tip[0]) * tip[0] + (at[1] - tip[1]) * tip[1]) / away;
  return inward >= FROM && Math.hypot(at[0] - tip[0], at[1] - tip[1]) <= TO;
}
