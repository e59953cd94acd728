import { fromRotation, fromTranslation, type Matrix, multiply, transformPoints } from '../linalg/rigid.ts';
import { byAxis, type Vec3 } from '../linalg/vec.ts';
import { faceNormals, intoFrame, type Mesh, makeMesh, vertexNormals } from '../mesh/mesh.ts';
import { castRay } from '../spatial/ray.ts';
import { makeSurface } from '../spatial/surface.ts';
import { type Random, seeded } from '../statistics/random.ts';
import type { ScanRecipe } from './recipe.ts';
import type { LabelledMesh, SolidKernel } from './solids.ts';

export interface SimulatedScan {
  readonly mesh: Mesh<'scanner'>;
  /** The master file's frame → scanner frame. */
  readonly pose: Matrix;
}

/**
 * What a bench scanner makes of a solid: cut off at its border, its own irregular triangles, noise along the normals, any
 * pose. The border follows the tooth that was meant to be scanned; the camera stands over the arch (`frame`: from the tooth to it).
 */
export function scanOf(
  solid: LabelledMesh,
  frame: Matrix,
  recipe: ScanRecipe,
  halfLength: number,
  seed: number,
  kernel: Pick<SolidKernel, 'simplify'>,
): SimulatedScan {
  const random = seeded(seed * 7919 + 13);
  const kept = crop(solid, halfLength + recipe.border, random);
  const cropped = intoFrame(makeMesh('master', kept.positions, kept.triangles), frame, 'master');
  let triangles = cropped.triangles;
  if (triangles.length / 3 > recipe.triangles)
    triangles = kernel.simplify(Float32Array.from(cropped.positions), triangles, recipe.triangles);
  if (recipe.sight !== undefined && recipe.sight < 90) triangles = seen(cropped.positions, triangles, recipe.sight);
  const compact = compactMesh(cropped.positions, triangles);
  addNoise(compact, recipe, random);
  const pose = recipe.pose === 'none' ? fromTranslation([0, 0, 0]) : randomPose(random);
  return { mesh: makeMesh('scanner', transformPoints(pose, compact.positions), compact.triangles), pose };
}

/** Keeps what a scanner sees from above and around: no bottom, a wavy border. */
function crop(m: LabelledMesh, reach: number, random: Random): { positions: Float64Array; triangles: Uint32Array } {
  const wave = [random.between(0, 6), random.between(0, 6), random.between(0, 6)];
  const kept: number[] = [];
  for (let f = 0; f < m.triangles.length; f += 3) {
    const c = [0, 0, 0];
    for (let k = 0; k < 3; k++) for (let d = 0; d < 3; d++) c[d] += m.positions[3 * m.triangles[f + k] + d] / 3;
    const x = Math.abs(c[0]) + 0.4 * Math.sin(c[1] * 1.3 + wave[0]);
    const floor = -3.2 + 0.35 * Math.sin(c[0] * 0.9 + wave[1]) + 0.25 * Math.sin(c[1] * 1.7 + wave[2]);
    if (x < reach && c[2] > floor) kept.push(m.triangles[f], m.triangles[f + 1], m.triangles[f + 2]);
  }
  return { positions: m.positions, triangles: Uint32Array.from(kept) };
}

/** Cosine of 78°: a face that is looked at more sideways than this gives the camera nothing. */
const GLANCING = 0.21;
/** Degrees between the camera's looks from the axis outward. */
const LOOK_EVERY = 15;
/** A face that looks at least this far upward counts as seen, because nothing stands over the teeth. */
const OPEN = 0.75;

/** Leaves out what a camera does not see that looks in from at most `sight` degrees off the axis: deep embrasures, undercuts. */
function seen(positions: Float64Array, triangles: Uint32Array, sight: number): Uint32Array {
  const mesh = makeMesh('master', positions, triangles);
  const surface = makeSurface(mesh);
  const { normals } = faceNormals(mesh);
  const looks: Vec3[] = [[0, 0, 1]];
  for (let tilt = LOOK_EVERY; tilt < sight + LOOK_EVERY; tilt += LOOK_EVERY)
    for (let k = 0; k < 12; k++) {
      const a = (Math.PI * k) / 6;
      const t = (Math.min(tilt, sight) * Math.PI) / 180;
      looks.push([Math.sin(t) * Math.cos(a), Math.sin(t) * Math.sin(a), Math.cos(t)]);
    }
  const kept: number[] = [];
  for (let f = 0; f < triangles.length; f += 3) {
    const n: Vec3 = [normals[f], normals[f + 1], normals[f + 2]];
    const from = byAxis(
      (k) =>
        (positions[3 * triangles[f] + k] + positions[3 * triangles[f + 1] + k] + positions[3 * triangles[f + 2] + k]) / 3 + 0.02 * n[k],
    );
    const visible =
      n[2] > OPEN || looks.some((d) => d[0] * n[0] + d[1] * n[1] + d[2] * n[2] > GLANCING && castRay(surface, from, d, 15) === null);
    if (visible) kept.push(triangles[f], triangles[f + 1], triangles[f + 2]);
  }
  return Uint32Array.from(kept);
}

function compactMesh(positions: Float64Array, triangles: Uint32Array): { positions: Float64Array; triangles: Uint32Array } {
  const map = new Int32Array(positions.length / 3).fill(-1);
  const out: number[] = [];
  const t = triangles.map((v) => {
    if (map[v] < 0) {
      map[v] = out.length / 3;
      out.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
    }
    return map[v];
  });
  return { positions: Float64Array.from(out), triangles: t };
}

/** Half of the variance is shared over `correlation` mm (value noise on a lattice), half belongs to each point alone. */
function addNoise(m: { positions: Float64Array; triangles: Uint32Array }, recipe: ScanRecipe, random: Random): void {
  if (!(recipe.noise > 0)) return;
  const { normals } = vertexNormals(makeMesh('scanner', m.positions, m.triangles));
  const salt = Math.floor(random.next() * 1e9);
  const half = recipe.noise * Math.SQRT1_2;
  for (let v = 0; v < m.positions.length / 3; v++) {
    const shared = smoothNoise(
      m.positions[3 * v] / recipe.correlation,
      m.positions[3 * v + 1] / recipe.correlation,
      m.positions[3 * v + 2] / recipe.correlation,
      salt,
    );
    const d = half * (random.normal() + shared);
    for (let k = 0; k < 3; k++) m.positions[3 * v + k] += d * normals[3 * v + k];
  }
}

/** Trilinear value noise of unit variance (at the lattice's middle cells, on average). */
function smoothNoise(x: number, y: number, z: number, salt: number): number {
  const i = Math.floor(x);
  const j = Math.floor(y);
  const k = Math.floor(z);
  const fx = x - i;
  const fy = y - j;
  const fz = z - k;
  let sum = 0;
  let squares = 0;
  for (let c = 0; c < 8; c++) {
    const w = (c & 1 ? fx : 1 - fx) * (c & 2 ? fy : 1 - fy) * (c & 4 ? fz : 1 - fz);
    sum += w * latticeNormal(i + (c & 1), j + ((c >> 1) & 1), k + ((c >> 2) & 1), salt);
    squares += w * w;
  }
  return sum / Math.sqrt(squares);
}

function latticeNormal(i: number, j: number, k: number, salt: number): number {
  let h = (Math.imul(i, 374761393) ^ Math.imul(j, 668265263) ^ Math.imul(k, 2147483647) ^ salt) >>> 0;
  let sum = 0;
  // Four uniforms make a near-normal value of variance 1/3; enough for scanner noise.
  for (let n = 0; n < 4; n++) {
    h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d) >>> 0;
    h = Math.imul(h ^ (h >>> 12), 0x297a2d39) >>> 0;
    h = (h ^ (h >>> 15)) >>> 0;
    sum += h / 4294967296 - 0.5;
  }
  return sum * Math.sqrt(3);
}

function randomPose(random: Random): Matrix {
  const axis: [number, number, number] = [random.normal(), random.normal(), random.normal()];
  // Uniform over rotations: a random quaternion.
  const q = [random.normal(), ...axis];
  const l = Math.hypot(...q);
  const angle = 2 * Math.acos(Math.min(1, Math.abs(q[0]) / l));
  return multiply(fromTranslation([random.between(-60, 60), random.between(-60, 60), random.between(-60, 60)]), fromRotation(axis, angle));
}
