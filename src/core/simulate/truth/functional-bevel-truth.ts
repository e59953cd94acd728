import { closedCentroid } from '../../linalg/curve.ts';
import { planeOf } from '../../linalg/plane.ts';
import { applyDirection, applyPoint, invertRigid } from '../../linalg/rigid.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { add, angleBetween, scale, toRadians, unit, type Vec3 } from '../../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal } from '../../spatial/surface.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import type { Opposing } from './bite-truth.ts';
import { fineSurface } from './fine.ts';
import type { Truth } from './truth.ts';

/** mm by which a place may lie off a bevel's plane and still be on it. */
const ON = 0.005;
/** degrees: a plane that stands steeper is the wall's second plane. */
const LEAST_ANGLE = 30;
/** mm from a bevel within which an opposing tooth is looked for. */
const FACING = 5;

/** The places of a bevel that was cut, half plane after half plane, in the construction frame. */
type CutBevel = readonly (readonly Vec3[])[];

/** Bevels over the functional cusps, from the cut's own profiles within 18° of each cusp. */
export function functionalBevels(t: Typodont, e: CrownEnvelope): CutBevel[] {
  const middle = closedCentroid(t.gingivalMargin);
  return t.target.cusps
    .filter((c) => c.role === 'functional')
    .flatMap((c) => {
      const azimuth = azimuthOf(c.at[0] - middle[0], c.at[1] - middle[1]);
      const plane = e.recipe.planes.find((p) => Math.abs(((azimuth - p.azimuth + 540) % 360) - 180) + 18 <= p.halfWidth);
      if (!plane || plane.angle < LEAST_ANGLE) return [];
      const [cos, sin] = [Math.cos(toRadians(plane.angle)), Math.sin(toRadians(plane.angle))];
      const lines: CutBevel = Array.from({ length: 19 }, (_, i) => toRadians(azimuth - 18 + 2 * i)).flatMap((phi): Vec3[][] => {
        const p = e.profile(phi);
        // The margin lies farther out along the bevel's normal than the bevel itself.
        const line = p.line.filter(([, y]) => y >= p.wallTop);
        if (line.length === 0) return [];
        const most = Math.max(...line.map(([r, z]) => r * cos + z * sin));
        const own = line.filter(([x, y]) => x * cos + y * sin >= most - ON);
        return [own.map(([r, z]): Vec3 => [r * Math.sin(phi), r * Math.cos(phi), z])];
      });
      return [lines];
    });
}

/** mm of a bevel's length that make it one: a shorter one is the rounding of its edge. */
const LEAST_LENGTH = 0.5;

/** Mean angle between the bevels over the functional cusps and the opposing surface at the places nearest to theirs. */
export function bevelOpposingTruth(t: Typodont, e: CrownEnvelope, opposing: Opposing): Truth[] {
  const angles = functionalBevels(t, e).flatMap((lines): number[] => {
    const lengths = lines.map((l) => Math.hypot(...add(l[0], scale(l[l.length - 1], -1)))).sort((a, b) => a - b);
    const places = lines.flat();
    const plane = planeOf(places);
    if (!plane || !(lengths[lengths.length >> 1] > LEAST_LENGTH)) return [];
    const faced = places.map((p) => facing(opposing, p)).filter((n): n is Vec3 => n !== null);
    if (faced.length < places.length / 2) return [];
    const own = plane.normal[2] < 0 ? scale(plane.normal, -1) : plane.normal;
    return [angleBetween(own, scale(unit(faced.reduce(add)), -1))];
  });
  if (angles.length === 0) return [];
  const value = angles.reduce((s, v) => s + v, 0) / angles.length;
  return [{ name: 'bevel.opposing', zone: null, stat: 'value', unit: 'deg', value }];
}

/** Outward direction of the opposing teeth's surface at its place nearest to p; null where they are far away. */
function facing({ typodont, place }: Opposing, p: Vec3): Vec3 | null {
  const q = applyPoint(invertRigid(place), p);
  const hit = newClosest();
  let least = FACING;
  let direction: Vec3 | null = null;
  for (const tooth of typodont.teeth) {
    const s = fineSurface(tooth);
    if (!closestPoint(s, q[0], q[1], q[2], hit, least)) continue;
    least = Math.sqrt(hit.distanceSquared);
    const n: [number, number, number] = [0, 0, 0];
    pseudoNormal(s, hit, n);
    direction = applyDirection(place, unit([...n]));
  }
  return direction;
}
