import { toDegrees, type Vec3 } from '../linalg/vec.ts';
import { expanded } from '../result/reading.ts';
import { closestPoint, newClosest, type Surface } from '../spatial/surface.ts';

/** mm: standard uncertainty of a surface that was made light for the screen against the scan itself. */
export const LIGHT = 0.02;
/** mm round a place over which the lean of its surface is taken. */
const ROUND = 0.45;
/** degrees: what noise leaves in a lean over so small a patch. */
const LEAN_U = 3;

export interface ProbedSurface {
  readonly surface: Surface;
  /** mm below the master, per vertex; from the full scan. */
  readonly depth: Float32Array;
  /** A triangle's corners in the surface's own mesh are the depths' own vertices. */
  readonly areas: Float64Array;
}

export interface Probed {
  /** The place on the surface that the tip rests on. */
  readonly at: Vec3;
  readonly depth: { readonly value: number; readonly U: number };
  /** Degrees of the surface to the axis: 0 an upright wall, + leaning in on its way up, 90 a level floor. */
  readonly lean: { readonly value: number; readonly U: number };
  /** Smallest distance to the opposing surface and the place there; null when there is none within 6 mm. */
  readonly gap: { readonly value: number; readonly U: number; readonly to: Vec3 } | null;
}

/**
 * What a probe set down on the picture reads: how much was taken there, how the surface leans, how much room there is to
 * the opposing arch. For inspection only; grades rest on the readings of the full scan.
 * @formula depth interpolated between the corners of the triangle under the tip; lean = atan2(N·z, N across) of the summed area vectors within 0.45 mm; gap = least distance from the tip to the opposing surface
 */
export function probe(scan: ProbedSurface, opposing: Surface | null, near: Vec3, pointError: number): Probed | null {
  const hit = newClosest();
  if (!closestPoint(scan.surface, near[0], near[1], near[2], hit, 1)) return null;
  const { positions: p, triangles: t } = scan.surface.mesh;
  const at: Vec3 = [hit.x, hit.y, hit.z];
  const corners = [0, 1, 2].map((k) => t[3 * hit.triangle + k]);
  const weights = barycentric(at, corners.map((v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]) as [Vec3, Vec3, Vec3]);
  const depth = corners.reduce((s, v, k) => s + weights[k] * scan.depth[v], 0);
  const n: [number, number, number] = [0, 0, 0];
  const normals = scan.surface.faceNormals;
  for (let f = 0; f < scan.areas.length; f++) {
    const v = 3 * t[3 * f];
    const d = (p[v] - at[0]) ** 2 + (p[v + 1] - at[1]) ** 2 + (p[v + 2] - at[2]) ** 2;
    if (d > ROUND * ROUND) continue;
    for (let k = 0; k < 3; k++) n[k] += scan.areas[f] * normals[3 * f + k];
  }
  const to = newClosest();
  const met = opposing !== null && closestPoint(opposing, at[0], at[1], at[2], to, 6);
  return {
    at,
    depth: { value: depth, U: expanded(LIGHT, pointError) },
    lean: { value: toDegrees(Math.atan2(n[2], Math.hypot(n[0], n[1]))), U: LEAN_U },
    gap: met ? { value: Math.sqrt(to.distanceSquared), U: expanded(LIGHT, LIGHT, pointError), to: [to.x, to.y, to.z] } : null,
  };
}

/** Weights of a triangle's corners at a place in it. */
function barycentric(q: Vec3, [a, b, c]: readonly [Vec3, Vec3, Vec3]): [number, number, number] {
  const dot = (i: Vec3, j: Vec3): number => (i[0] - a[0]) * (j[0] - a[0]) + (i[1] - a[1]) * (j[1] - a[1]) + (i[2] - a[2]) * (j[2] - a[2]);
  const [bb, bc, cc, qb, qc] = [dot(b, b), dot(b, c), dot(c, c), dot(q, b), dot(q, c)];
  const whole = bb * cc - bc * bc;
  if (!(Math.abs(whole) > 1e-12)) return [1, 0, 0];
  const v = (cc * qb - bc * qc) / whole;
  const w = (bb * qc - bc * qb) / whole;
  return [1 - v - w, v, w];
}
