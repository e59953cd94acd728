import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { dot, toDegrees, unit, type Vec3 } from '../../linalg/vec.ts';
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

/** mm: cusps nearer than this to one line span no plane. */
const LEAST_SPREAD = 1;

/** Least-squares plane over (x, y) with its normal, and how far its points stand off the line that fits them best, seen along the axis, times √n. */
export function planeThrough(points: readonly Vec3[]): { readonly normal: Vec3; readonly spread: number } | null {
  const n = points.length;
  if (n < 3) return null;
  const [mx, my] = [0, 1].map((k) => points.reduce((s, p) => s + p[k], 0) / n);
  const sum = (f: (x: number, y: number) => number): number => points.reduce((s, p) => s + f(p[0] - mx, p[1] - my), 0);
  const [xx, xy, yy] = [sum((x) => x * x), sum((x, y) => x * y), sum((_, y) => y * y)];
  const least = (xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy);
  if (!(least > LEAST_SPREAD ** 2)) return null;
  const s = leastSquares(points.map((p) => ({ f: [1, p[0], p[1]], x: p[2], w: 1 })));
  return s && { normal: unit([-s[1], -s[2], 1]), spread: Math.sqrt(least) };
}
