import { fromRotation, fromTranslation, type Matrix, multiply } from '../linalg/rigid.ts';
import { addObservation, solveSymmetric } from '../linalg/solve.ts';
import { length, type Vec3 } from '../linalg/vec.ts';
import { type NearestField, nearVertex } from '../spatial/nearest-field.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal, type Surface } from '../spatial/surface.ts';
import { normalAlong, type Sample } from './sample.ts';

export interface StepOptions {
  readonly points: number;
  /** mm: farther counterparts are ignored. */
  readonly limit: number;
  /** Robust weight of a residual (mm). */
  readonly weight: (residual: number, index: number) => number;
  /** Least cosine between the two normals. */
  readonly normalWithin: number;
  /** Slots of the last answers, as bounds for the next search. */
  readonly hints?: Int32Array;
  /** Counterparts from the tabulated field instead of a search: rough and quick. */
  readonly field?: NearestField;
}

export interface Step {
  readonly matrix: Matrix;
  /** Normal matrix (6 × 6) about the centroid of the used points, unweighted by noise; turns first, then shifts. */
  readonly information: Float64Array;
  readonly centre: Vec3;
  readonly used: number;
  /** Signed residuals (mm) with their weights, in sample order; NaN-free: index −1 marks unused. */
  readonly residuals: Float64Array;
  readonly weights: Float64Array;
  /** Size of the update: radians and mm. */
  readonly turn: number;
  readonly shift: number;
}

const hit = newClosest();
const n: [number, number, number] = [0, 0, 0];

/** Place and normal of each point's counterpart: overwritten by every step, since a search makes a thousand of them. */
let rows = new Float64Array(0);

/** Closest point and normal into `hit` and `n`; false when there is none within the limit or only a border. */
function counterpart(master: Surface, x: number, y: number, z: number, o: StepOptions, i: number): boolean {
  if (!closestPoint(master, x, y, z, hit, o.limit, o.hints ? o.hints[i] : -1)) return false;
  if (o.hints) o.hints[i] = hit.slot;
  if (onBorder(master, hit)) return false;
  pseudoNormal(master, hit, n);
  return true;
}

function roughCounterpart(f: NearestField, x: number, y: number, z: number, limit: number): boolean {
  const v = nearVertex(f, x, y, z);
  if (v < 0 || f.surface.borderVertex[v]) return false;
  const q = f.surface.mesh.positions;
  hit.x = q[3 * v];
  hit.y = q[3 * v + 1];
  hit.z = q[3 * v + 2];
  for (let k = 0; k < 3; k++) n[k] = f.surface.vertexNormals[3 * v + k];
  return (x - hit.x) ** 2 + (y - hit.y) ** 2 + (z - hit.z) ** 2 < limit * limit;
}

/**
 * One Gauss–Newton step of point-to-plane ICP: minimises Σ w (n·(p + ω × (p−c) + t − q))² over small ω, t.
 * Null when too few points have a counterpart or they leave the pose undetermined.
 * @source Chen & Medioni (1992)
 */
export function pointToPlaneStep(scan: Sample, master: Surface, m: Matrix, o: StepOptions): Step | null {
  const count = Math.min(o.points, scan.count);
  const residuals = new Float64Array(count);
  const weights = new Float64Array(count);
  if (rows.length < count * 6) rows = new Float64Array(count * 6);
  const centre = [0, 0, 0];
  let used = 0;
  for (let i = 0; i < count; i++) {
    const [u, v, w] = [scan.points[3 * i], scan.points[3 * i + 1], scan.points[3 * i + 2]];
    const x = m[0] * u + m[1] * v + m[2] * w + m[3];
    const y = m[4] * u + m[5] * v + m[6] * w + m[7];
    const z = m[8] * u + m[9] * v + m[10] * w + m[11];
    if (!(o.field ? roughCounterpart(o.field, x, y, z, o.limit) : counterpart(master, x, y, z, o, i))) continue;
    const l = length(n);
    if (!(l > 0) || normalAlong(scan, i, m, n) < o.normalWithin * l) continue;
    const nx = n[0] / l;
    const ny = n[1] / l;
    const nz = n[2] / l;
    const r = (x - hit.x) * nx + (y - hit.y) * ny + (z - hit.z) * nz;
    residuals[i] = r;
    weights[i] = o.weight(r, i);
    const row = 6 * i;
    rows[row] = x;
    rows[row + 1] = y;
    rows[row + 2] = z;
    rows[row + 3] = nx;
    rows[row + 4] = ny;
    rows[row + 5] = nz;
    centre[0] += x;
    centre[1] += y;
    centre[2] += z;
    used++;
  }
  if (used < 12) return null;
  const c: Vec3 = [centre[0] / used, centre[1] / used, centre[2] / used];
  const a = new Float64Array(36);
  const b = new Float64Array(6);
  const j = new Float64Array(6);
  for (let i = 0; i < count; i++) {
    const w = weights[i];
    if (w === 0) continue;
    const k = 6 * i;
    const x = rows[k] - c[0];
    const y = rows[k + 1] - c[1];
    const z = rows[k + 2] - c[2];
    const nx = rows[k + 3];
    const ny = rows[k + 4];
    const nz = rows[k + 5];
    j[0] = y * nz - z * ny;
    j[1] = z * nx - x * nz;
    j[2] = x * ny - y * nx;
    j[3] = nx;
    j[4] = ny;
    j[5] = nz;
    addObservation(a, b, j, w, -residuals[i]);
  }
  for (let r = 0; r < 6; r++) for (let q = r + 1; q < 6; q++) a[6 * r + q] = a[6 * q + r];
  const damped = a.slice();
  for (let r = 0; r < 6; r++) damped[7 * r] *= 1 + 1e-9;
  const s = solveSymmetric(damped, b, 6);
  if (!s) return null;
  const omega: Vec3 = [s[0], s[1], s[2]];
  const turn = length(omega);
  const shift = Math.hypot(s[3], s[4], s[5]);
  let update = fromTranslation([s[3], s[4], s[5]]);
  if (turn > 1e-15)
    update = multiply(
      update,
      multiply(fromTranslation(c), multiply(fromRotation(omega, Math.min(turn, 0.6)), fromTranslation([-c[0], -c[1], -c[2]]))),
    );
  return { matrix: multiply(update, m), information: a, centre: c, used, residuals, weights, turn, shift };
}
