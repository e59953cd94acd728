import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { planeOf } from '../../linalg/plane.ts';
import { angleBetween, scale, toDegrees, unit, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal } from '../../spatial/surface.ts';
import { type Bevel, bevelsFound } from '../bevel-found.ts';
import type { CrownContext } from '../crown/context.ts';

const NAME = 'bevel.opposing';
/** mm from a bevel within which the surface that it faces is looked for. */
const FACING = 5;
/** Places of a bevel that must face something. */
const LEAST = 12;

/**
 * Angle between the functional bevel and the opposing inclines that it faces: 0 where both are parallel, so that the crown is as thick all along.
 * @formula mean over the functional cusps of ∠(n bevel, −n opposing); n bevel = the outward normal of the plane nearest to the bevel's points, n opposing = the mean direction of the opposing surface at the points nearest to the bevel's own
 * @units degrees
 * @frame tooth
 * @fails no-opposing, no-landmark, no-bevel, far-apart
 * @source own definition, docs/definitions.md
 * @example a bevel at 45° under an opposing incline at 55° reads 10
 */
export function bevelOpposing(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  const { master, alignment } = c.anatomy;
  if (!master.opposing) return refusal(NAME, null, ['value'], 'no-opposing');
  if (!master.landmarks.cusps.some((q) => q.role === 'functional')) return refusal(NAME, null, ['value'], 'no-landmark');
  const bevels = bevelsFound(c, 'functional');
  if (bevels.length === 0) return refusal(NAME, null, ['value'], 'no-bevel');
  const facing = bevels.flatMap((b) => {
    const f = faced(b, master.opposing as NonNullable<typeof master.opposing>);
    return f ? [{ b, ...f }] : [];
  });
  if (facing.length === 0) return refusal(NAME, null, ['value'], 'far-apart');
  const n = facing.length;
  const worst = facing.reduce((x, y) => (y.angle > x.angle ? y : x));
  const noise = Math.sqrt(facing.reduce((s, f) => s + f.b.scatter.angle ** 2 + f.scatter ** 2, 0)) / n;
  return [
    reading({
      name: NAME,
      value: facing.reduce((s, f) => s + f.angle, 0) / n,
      U: expanded(noise, toDegrees(alignment.turnError), methodUncertainty(NAME, 'value')),
      at: worst.b.at,
      samples: facing.reduce((s, f) => s + f.samples, 0),
    }),
  ];
}

/** The inclines that a bevel faces; `scatter` in degrees is the standard error of their mean direction. */
function faced(b: Bevel, opposing: NonNullable<CrownContext['anatomy']['master']['opposing']>) {
  const hit = newClosest();
  const n: [number, number, number] = [0, 0, 0];
  const directions: Vec3[] = [];
  for (const [x, y, z] of b.surface) {
    if (!closestPoint(opposing, x, y, z, hit, FACING) || onBorder(opposing, hit)) continue;
    pseudoNormal(opposing, hit, n);
    directions.push(unit([...n]));
  }
  if (directions.length < LEAST) return null;
  const sum = directions.reduce<Vec3>((s, d) => [s[0] + d[0], s[1] + d[1], s[2] + d[2]], [0, 0, 0]);
  if (!(Math.hypot(...sum) > 0)) return null;
  const mean = unit(sum);
  const plane = planeOf(b.surface);
  if (!plane) return null;
  const own = plane.normal[2] < 0 ? scale(plane.normal, -1) : plane.normal;
  const apart = directions.map((d) => angleBetween(d, mean));
  return {
    angle: angleBetween(own, scale(mean, -1)),
    // Places of one incline lie close together: a quarter of them count as independent.
    scatter: Math.sqrt(apart.reduce((s, v) => s + v * v, 0) / apart.length / (directions.length / 4)),
    samples: directions.length,
  };
}
