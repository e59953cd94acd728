import { dot, sub, type Vec3 } from '#core/linalg/vec.ts';
import { type Landmarks, PART } from '#core/master/master.ts';
import { type Mesh, makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { seeded } from '#core/statistics/random.ts';

/** How a cementoenamel junction shows on a crown: as a furrow, or as a step from enamel down to the root. */
export interface Neck {
  readonly form: 'furrow' | 'step';
  /** mm */
  readonly depth: number;
  /** Facial half only. */
  readonly isHalf?: boolean;
}
/** mm */
const FURROW = 0.15;
const STEP = 0.04;

interface Crown {
  readonly mesh: Mesh;
  readonly parts: Uint8Array;
  readonly axis: Vec3;
  readonly mesial: Vec3;
  readonly facial: Vec3;
  readonly marks: Pick<Landmarks, 'gingivalMargin'>;
}

/** Height of the junction over the gingival margin in a direction round the tooth (radians from facial), mm: it rises on two sides. */
const junctionOver = (direction: number): number => 1.2 + 0.25 * Math.cos(2 * direction);

/** Signed mm by which a place lies over the junction that is etched into a crown, and its direction from facial. */
export function neckOf(c: Crown): (p: Vec3) => { over: number; direction: number } {
  const g = c.marks.gingivalMargin;
  const middle = [0, 1, 2].map((k) => g.reduce((s, p) => s + p[k], 0) / g.length) as [number, number, number];
  const direction = (p: Vec3): number => Math.atan2(dot(sub(p, middle), c.mesial), dot(sub(p, middle), c.facial));
  const margin = g.map((p) => ({ direction: direction(p), height: dot(sub(p, middle), c.axis) }));
  const apart = (a: number, b: number): number => Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)));
  return (p) => {
    const own = direction(p);
    const under = margin.reduce((best, m) => (apart(m.direction, own) < apart(best.direction, own) ? m : best));
    return { over: dot(sub(p, middle), c.axis) - under.height - junctionOver(own), direction: own };
  };
}

/** A crown with a junction etched into its neck, and noise of each point along its normal (mm). */
export function etched(c: Crown, neck: Neck | null, noise = 0, seed = 7): Mesh {
  const { normals } = vertexNormals(c.mesh);
  const random = seeded(seed);
  const at = neckOf(c);
  const positions = Float64Array.from(c.mesh.positions);
  for (let v = 0; v < c.parts.length; v++) {
    const { over, direction } = at([positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]]);
    const isThere = neck && c.parts[v] === PART.target && (!neck.isHalf || Math.cos(direction) > 0);
    const shape = neck?.form === 'furrow' ? Math.exp(-0.5 * (over / FURROW) ** 2) : 1 / (1 + Math.exp(over / STEP));
    const move = noise * random.normal() - (isThere ? neck.depth * shape : 0);
    for (let k = 0; k < 3; k++) positions[3 * v + k] += move * normals[3 * v + k];
  }
  return makeMesh(c.mesh.frame, positions, c.mesh.triangles);
}
