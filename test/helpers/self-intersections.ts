import { BufferAttribute, BufferGeometry, Matrix4, type Triangle } from 'three';
import { type ExtendedTriangle, MeshBVH } from 'three-mesh-bvh';

/** mm: triangles thinner than this are rounding's own, and cross whatever they lie beside. */
const THIN = 1e-4;

/** Pairs of triangles that cross one another without sharing a corner. */
export function selfIntersections(positions: ArrayLike<number>, triangles: ArrayLike<number>): number {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(triangles), 1));
  const bvh = new MeshBVH(geometry, { indirect: true });
  const at = (v: number, k: number): number => positions[3 * v + k];
  const same = (a: number, b: number): boolean => [0, 1, 2].every((k) => Math.abs(at(a, k) - at(b, k)) < 1e-6);
  const corners = (t: number): number[] => [0, 1, 2].map((k) => triangles[3 * t + k]);
  const touching = (s: number, t: number): boolean => corners(s).some((a) => corners(t).some((b) => a === b || same(a, b)));
  const flat = (t: Triangle): boolean => t.getArea() < THIN * Math.max(t.a.distanceTo(t.b), t.b.distanceTo(t.c), t.c.distanceTo(t.a));
  let crossing = 0;
  bvh.bvhcast(bvh, new Matrix4(), {
    intersectsTriangles: (a: ExtendedTriangle, b: ExtendedTriangle, i: number, j: number) => {
      const [s, t] = [bvh.resolveTriangleIndex(i), bvh.resolveTriangleIndex(j)];
      if (s < t && !touching(s, t) && !flat(a) && !flat(b) && a.intersectsTriangle(b)) crossing++;
      return false;
    },
  } as never);
  return crossing;
}
