import { useMemo } from 'react';
import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { DisplayMesh } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';

/** Moves a place across the picture, seen from `eye`, and back onto the surface. */
export function useNudge(mesh: DisplayMesh | null) {
  const tree = useMemo(() => {
    let made: MeshBVH | null = null;
    return () => {
      if (!made && mesh) {
        const g = new THREE.BufferGeometry();
        g.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
        g.setIndex(new THREE.BufferAttribute(mesh.indices.slice(), 1));
        made = new MeshBVH(g);
      }
      return made;
    };
  }, [mesh]);
  return (at: Vec3, eye: Vec3, frame: { axis: Vec3; facial: Vec3 } | null, right: number, up: number): Vec3 | null => {
    const e = new THREE.Vector3(...eye);
    const upright = frame && Math.abs(e.dot(new THREE.Vector3(...frame.axis))) < 0.8 ? frame.axis : (frame?.facial ?? [0, 1, 0]);
    const x = new THREE.Vector3(...upright).cross(e).normalize();
    const y = e.clone().cross(x);
    const q = new THREE.Vector3(...at).addScaledVector(x, right).addScaledVector(y, up);
    const hit = tree()?.closestPointToPoint(q);
    return hit ? [hit.point.x, hit.point.y, hit.point.z] : null;
  };
}
