import { type Mesh, makeMesh } from '../../mesh/mesh.ts';
import { makeSurface, type Surface } from '../../spatial/surface.ts';
import { toothSolid } from '../bodies.ts';
import type { PlacedTooth } from '../typodont.ts';

const meshes = new WeakMap<PlacedTooth, Mesh<'tooth'>>();
const surfaces = new WeakMap<PlacedTooth, Surface>();

/** A tooth's formula tessellated far finer than any scan (its facets lie within 3 µm of it), alone; made once for each tooth. */
export function fineMesh(t: PlacedTooth): Mesh<'tooth'> {
  let m = meshes.get(t);
  if (!m) {
    const solid = toothSolid(t, 64);
    m = makeMesh('tooth', solid.positions, solid.triangles);
    meshes.set(t, m);
  }
  return m;
}

/** The same, to be searched. */
export function fineSurface(t: PlacedTooth): Surface {
  let s = surfaces.get(t);
  if (!s) {
    s = makeSurface(fineMesh(t));
    surfaces.set(t, s);
  }
  return s;
}
