import { isLeftHanded } from '../anatomy/anatomy.ts';
import type { ToothShape } from '../anatomy/shape.ts';
import { tessellateStar } from '../anatomy/tessellate.ts';
import { makeTooth } from '../anatomy/tooth.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { type Mesh, makeMesh } from '../mesh/mesh.ts';
import { makeSurface, type Surface } from '../spatial/surface.ts';

/** The usual crown of one tooth number in its own frame, to be laid on a scanned one. */
export interface Template {
  readonly tooth: string;
  readonly shape: ToothShape;
  readonly surface: Surface<'tooth'>;
  /** Points spread evenly over the crown, with their normals: x, y, z each. */
  readonly points: Float64Array;
  readonly normals: Float64Array;
}

const FACETS = 26;
/** mm over the neck from which a crown's surface is usually free of gingiva. */
const FREE = 1.4;
const known = new Map<string, Template>();

export function templateOf(tooth: string): Template {
  const made = known.get(tooth) ?? make(tooth);
  known.set(tooth, made);
  return made;
}

function make(tooth: string): Template {
  const shape = makeTooth(tooth);
  const h = shape.plan.height;
  const s = tessellateStar((x, y, z) => Math.min(shape.inside(x, y, z), z + 3), [0, 0.03 * shape.plan.fl, 0.32 * h], FACETS);
  const surface = makeSurface(makeMesh('tooth', s.positions, s.triangles));
  const points: number[] = [];
  const normals: number[] = [];
  for (let v = 0; v < s.positions.length; v += 3) {
    if (s.positions[v + 2] < FREE) continue;
    points.push(s.positions[v], s.positions[v + 1], s.positions[v + 2]);
    normals.push(surface.vertexNormals[v], surface.vertexNormals[v + 1], surface.vertexNormals[v + 2]);
  }
  return { tooth, shape, surface, points: Float64Array.from(points), normals: Float64Array.from(normals) };
}

/**
 * The scan as a tooth of this number would have it right-handed: left-handed quadrants are looked at in a mirror, so that one
 * form serves both sides. Mirroring turns the triangles over with it.
 */
export const handed = (mesh: Mesh, tooth: string): Mesh => (isLeftHanded(tooth) ? mirror(mesh) : mesh);

/** The mesh in a mirror, its outside still outside. */
export function mirror(mesh: Mesh): Mesh {
  const positions = Float64Array.from(mesh.positions, (v, i) => (i % 3 === 1 ? -v : v));
  const triangles = Uint32Array.from(mesh.triangles, (_, i) => mesh.triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]);
  return makeMesh(mesh.frame, positions, triangles);
}

export const handedPoint = (p: Vec3, tooth: string): Vec3 => (isLeftHanded(tooth) ? [p[0], -p[1], p[2]] : p);
