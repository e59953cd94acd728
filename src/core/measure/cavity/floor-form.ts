import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { properPlane } from '../../segment/cavity/floor-proper.ts';
import type { Floor } from '../../segment/cavity/floors.ts';
import { floorError } from '../uncertainty/fit-error.ts';

/**
 * Floors: tilt of the fitted plane against the plane across the axis (the place names the azimuth towards which it rises),
 * and flatness about it.
 * @formula tilt = atan |∇z| of the area-weighted least-squares plane through points that look within 15° of it; flat = RMS distance along z to it, scan noise taken off
 * @units degrees; mm
 * @frame tooth
 * @fails no-pulpal-floor, no-gingival-floor
 * @source own definition, docs/definitions.md
 * @example a level floor reads 0 and 0
 */
export function floorForm(a: CavityAnatomy): Reading[] {
  return [
    ...formOf(a, 'floor.pulpal', null, a.pulpal),
    ...(['mesial', 'distal'] as const).flatMap((side) => {
      const b = a.boxes.find((q) => q.side === side);
      return b ? formOf(a, 'floor.gingival', `${side} floor`, b.floor) : [];
    }),
  ];
}

function formOf(a: CavityAnatomy, name: 'floor.pulpal' | 'floor.gingival', zone: string | null, f: Floor | null): Reading[] {
  if (!f)
    return [...refusal(`${name}.tilt`, zone, ['value'], 'no-pulpal-floor'), ...refusal(`${name}.flat`, zone, ['value'], 'no-pulpal-floor')];
  const { b, c, flat } = properPlane(a, f);
  // Where the floor ends is a choice: with the rounding into its walls it would tilt so much more.
  const border = toDegrees(Math.hypot(b - f.plane.b, c - f.plane.c)) / 2;
  const { alongX, alongY } = floorError(a, f);
  const noise = toDegrees(Math.hypot(alongX, alongY));
  const common = { zone, at: { azimuth: azimuthOf(b, c), point: f.centre }, samples: f.vertices.length };
  return [
    reading({
      name: `${name}.tilt`,
      value: toDegrees(Math.atan(Math.hypot(b, c))),
      U: expanded(noise, toDegrees(a.alignment.turnError), border, methodUncertainty(`${name}.tilt`, 'value')),
      ...common,
    }),
    reading({ name: `${name}.flat`, value: flat, U: expanded(0.25 * a.alignment.noise, 0.004), ...common }),
  ];
}
