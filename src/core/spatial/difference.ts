import { type Frame, type Mesh, vertexCount } from '../mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, onBorder, signOf } from './surface.ts';

/** mm beyond which two surfaces are not of the same place. */
const REACH = 4;

/**
 * How far each vertex of one surface lies from another in the same frame: positive over it (more material there now), negative under it.
 * @formula signed closest-point distance from vertex to surface; the sign by the closest feature's pseudo-normal
 * @units mm
 * @frame both meshes in one frame; nothing is aligned here
 * @fails null where the other surface ends within reach or has nothing within 4 mm: no distance can be given there
 * @source Bærentzen and Aanæs 2005 for the sign
 */
export function differenceFrom<F extends Frame>(later: Mesh<F>, earlier: Mesh<F>): (number | null)[] {
  const surface = makeSurface(earlier);
  const found = newClosest();
  const p = later.positions;
  return Array.from({ length: vertexCount(later) }, (_, v) => {
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (!closestPoint(surface, x, y, z, found, REACH) || onBorder(surface, found)) return null;
    return signOf(surface, found, x, y, z) * Math.sqrt(found.distanceSquared);
  });
}
