import { makeMesh } from '../../mesh/mesh.ts';
import { makeSurface, type Surface } from '../../spatial/surface.ts';
import { toothSolid } from '../bodies.ts';
import type { PlacedTooth } from '../typodont.ts';

const made = new WeakMap<PlacedTooth, Surface>();

/** A tooth's formula tessellated far finer than any scan (its facets lie within 2 µm of it), alone; made once for each tooth. */
export function fineSurface(t: PlacedTooth): Surface {
  let s = made.get(t);
  if (!s) {
    const solid = toothSolid(t, 80);
    s = makeSurface(makeMesh('tooth', solid.positions, solid.triangles));
    made.set(t, s);
  }
  return s;
}
