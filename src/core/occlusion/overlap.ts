import type { Vec3 } from '../linalg/vec.ts';
import { closestPoint, newClosest, onBorder, type Surface, signOf } from '../spatial/surface.ts';

/** mm beyond which a surface is simply far away. */
export const FAR_MM = 2;

/**
 * Signed distance (mm) of points to the opposing arch moved by `shift`: negative where the two run into each other, FAR_MM where it is far
 * away or not scanned.
 */
export function gaps(opposing: Surface, points: ArrayLike<number>, shift: Vec3): Float32Array {
  const hit = newClosest();
  const out = new Float32Array(points.length / 3);
  for (let v = 0; v < out.length; v++) {
    const [x, y, z] = [points[3 * v] - shift[0], points[3 * v + 1] - shift[1], points[3 * v + 2] - shift[2]];
    const near = closestPoint(opposing, x, y, z, hit, FAR_MM) && !onBorder(opposing, hit);
    out[v] = near ? signOf(opposing, hit, x, y, z) * Math.sqrt(hit.distanceSquared) : FAR_MM;
  }
  return out;
}
