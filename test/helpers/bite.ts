import { fromRotation, fromTranslation, multiply } from '#core/linalg/rigid.ts';
import { dot, type Vec3 } from '#core/linalg/vec.ts';
import { faceNormals, intoFrame, type Mesh, makeMesh, subMesh } from '#core/mesh/mesh.ts';

/** Both jaws from the facial side, as a bite scan shows them, in a frame of its own. */
export function facialBite(arch: Mesh, opposing: Mesh, facial: Vec3): Mesh {
  const facing = (m: Mesh): Mesh => {
    const { normals } = faceNormals(m);
    return subMesh(m, (f) => dot([normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]], facial) > 0.25).mesh;
  };
  const [a, b] = [facing(arch), facing(opposing)];
  const n = a.positions.length / 3;
  const both = makeMesh(
    'master',
    Float64Array.from([...a.positions, ...b.positions]),
    Uint32Array.from([...a.triangles, ...Array.from(b.triangles, (t) => t + n)]),
  );
  return intoFrame(both, multiply(fromTranslation([4, 50, -9]), fromRotation([0.2, 1, 0.5], 2.4)), 'master');
}
