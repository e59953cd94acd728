import { applyDirection, applyPoint, fromRotation, fromTranslation, IDENTITY, type Matrix, multiply } from '../linalg/rigid.ts';
import { angleBetween, cross, length, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { nearestField, nearVertex } from '../spatial/nearest-field.ts';
import type { Surface } from '../spatial/surface.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal } from '../spatial/surface.ts';
import { THRESHOLDS } from '../thresholds.ts';
import { normalAlong, type Sample, sampleSurface } from './sample.ts';
import { pointToPlaneStep } from './step.ts';

export interface CoarseFit {
  readonly matrix: Matrix;
  /** Share of the scan's surface that lies on the master in this pose. */
  readonly share: number;
}

export interface SearchOptions {
  /** Starts over all directions, also where an open shell shows which way is occlusal. */
  readonly everyDirection?: boolean;
  /** Fewer candidates and steps; a result of little share then says nothing. */
  readonly quick?: boolean;
  /** Poses to start from instead. */
  readonly starts?: readonly Matrix[];
}

/** One round of the search: how many candidates stay, how many points, steps and mm of reach refine each, and by which counterparts. */
interface Round {
  readonly keep: number;
  readonly points: number;
  readonly steps: number;
  readonly reach: number;
  readonly rough: boolean;
}

/** Finds 180 of 180 poses of scans that show the target with 3 mm of its neighbours or more, in two thirds of the time. */
const QUICK: readonly Round[] = [
  { keep: 24, points: 80, steps: 5, reach: 6, rough: true },
  { keep: 6, points: 240, steps: 8, reach: 3, rough: true },
  { keep: 2, points: 320, steps: 4, reach: 1.2, rough: false },
  { keep: 1, points: 600, steps: 4, reach: 0.5, rough: false },
];

/** Of scans of hardly more than the target it finds an eighth more. */
const THOROUGH: readonly Round[] = [
  { keep: 60, points: 80, steps: 5, reach: 6, rough: true },
  { keep: 8, points: 240, steps: 10, reach: 3, rough: true },
  { keep: 2, points: 320, steps: 6, reach: 1.2, rough: false },
  { keep: 1, points: 1000, steps: 6, reach: 0.5, rough: false },
];

/**
 * Pose search without a hint: starts spread over rotations (and a few shifts along the arch), each refined by a few
 * trimmed point-to-plane steps on few points; the best are refined on more. An open scan shell shows where occlusal is
 * (its mean normal), which leaves one turn to search; a closed body is searched over all directions. Who knows more gives the starts.
 */
export function coarseAlign(scan: Sample, master: Surface, options: SearchOptions = {}): CoarseFit {
  const starts = options.starts ?? startPoses(scan, referenceOf(master), options.everyDirection ?? false);
  let pool = starts.map((matrix) => ({ matrix, share: 0 }));
  for (const round of options.quick ? QUICK : THOROUGH) {
    pool = pool.map((c) => refine(scan, master, c.matrix, round));
    pool.sort((a, b) => b.share - a.share);
    pool = distinct(pool, round.keep);
  }
  return { matrix: pool[0].matrix, share: shareOn(scan, master, pool[0].matrix, 1500, THRESHOLDS.alignInlier_mm) };
}

const references = new WeakMap<Surface, Sample>();

function referenceOf(master: Surface): Sample {
  let s = references.get(master);
  if (!s) {
    s = sampleSurface(master.mesh, 2000, master.borderVertex);
    references.set(master, s);
  }
  return s;
}

function centroid(s: Sample): Vec3 {
  const c = [0, 0, 0];
  for (let i = 0; i < s.points.length; i++) c[i % 3] += s.points[i];
  return [c[0] / s.count, c[1] / s.count, c[2] / s.count];
}

function startPoses(scan: Sample, master: Sample, everyDirection: boolean): Matrix[] {
  const from = centroid(scan);
  const to = centroid(master);
  const up = unit(length(master.openness) > 0.1 ? master.openness : [0, 0, 1]);
  const free = everyDirection || length(scan.openness) < 0.12;
  const ups: Vec3[] = free ? sphere(60) : [unit(scan.openness)];
  const long = longest(master, to, up);
  const out: Matrix[] = [];
  const turns = free ? 20 : 36;
  for (const u of ups)
    for (let k = 0; k < turns; k++) {
      const rotation = multiply(fromRotation(up, (2 * Math.PI * k) / turns), turnOnto(u, up));
      const moved = applyDirection(rotation, from);
      for (const s of [0, -7, 7])
        out.push(multiply(fromTranslation(sub([to[0] + s * long[0], to[1] + s * long[1], to[2] + s * long[2]], moved)), rotation));
    }
  return out;
}

/** Shortest rotation that takes unit vector a onto b. */
export function turnOnto(a: Vec3, b: Vec3): Matrix {
  const axis = cross(a, b);
  const angle = (angleBetween(a, b) * Math.PI) / 180;
  if (length(axis) > 1e-9) return fromRotation(axis, angle);
  if (angle < 1) return IDENTITY;
  return fromRotation(Math.abs(a[0]) < 0.9 ? cross(a, [1, 0, 0]) : cross(a, [0, 1, 0]), Math.PI);
}

/** Direction across `up` in which the sample is longest: the run of the arch. */
function longest(s: Sample, c: Vec3, up: Vec3): Vec3 {
  const e1 = unit(Math.abs(up[0]) < 0.9 ? cross(up, [1, 0, 0]) : cross(up, [0, 1, 0]));
  const e2 = cross(up, e1);
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (let i = 0; i < s.count; i++) {
    const d = [s.points[3 * i] - c[0], s.points[3 * i + 1] - c[1], s.points[3 * i + 2] - c[2]];
    const a = d[0] * e1[0] + d[1] * e1[1] + d[2] * e1[2];
    const b = d[0] * e2[0] + d[1] * e2[1] + d[2] * e2[2];
    xx += a * a;
    xy += a * b;
    yy += b * b;
  }
  const t = 0.5 * Math.atan2(2 * xy, xx - yy);
  return unit([
    e1[0] * Math.cos(t) + e2[0] * Math.sin(t),
    e1[1] * Math.cos(t) + e2[1] * Math.sin(t),
    e1[2] * Math.cos(t) + e2[2] * Math.sin(t),
  ]);
}

/** Evenly spread directions (Fibonacci lattice). */
function sphere(n: number): Vec3[] {
  return Array.from({ length: n }, (_, i) => {
    const z = 1 - (2 * i + 1) / n;
    const r = Math.sqrt(1 - z * z);
    const a = i * Math.PI * (3 - Math.sqrt(5));
    return [r * Math.cos(a), r * Math.sin(a), z];
  });
}

/** The final, exact rounds of the search, from a given pose. */
export const refineFrom = (scan: Sample, master: Surface, start: Matrix): CoarseFit =>
  THOROUGH.filter((r) => !r.rough).reduce<CoarseFit>((fit, round) => refine(scan, master, fit.matrix, round), { matrix: start, share: 0 });

function refine(scan: Sample, master: Surface, start: Matrix, round: Round): CoarseFit {
  const { points, steps, reach, rough } = round;
  const field = rough ? nearestField(master) : undefined;
  const hints = rough ? undefined : new Int32Array(Math.min(points, scan.count)).fill(-1);
  let m = start;
  for (let i = 0; i < steps; i++) {
    // The search distance shrinks as the pose converges, so that distant parts without a counterpart get no weight.
    const limit = Math.max(0.3, reach * 0.85 ** i);
    const next = pointToPlaneStep(scan, master, m, {
      points,
      limit,
      weight: (d) => 1 / (1 + (d / (0.35 * limit)) ** 2),
      normalWithin: 0.3,
      field,
      hints,
    });
    if (!next) break;
    m = next.matrix;
  }
  const within = Math.max(THRESHOLDS.alignInlier_mm, reach / 8);
  return { matrix: m, share: rough ? roughShareOn(scan, master, m, points, within) : shareOn(scan, master, m, points, within) };
}

const hit = newClosest();
const n: [number, number, number] = [0, 0, 0];

/** Share of the sample's first `points` that lie within `within` mm of the master, facing the same way. */
export function shareOn(scan: Sample, master: Surface, m: Matrix, points: number, within: number): number {
  const count = Math.min(points, scan.count);
  let on = 0;
  for (let i = 0; i < count; i++) {
    const p = applyPoint(m, [scan.points[3 * i], scan.points[3 * i + 1], scan.points[3 * i + 2]]);
    if (!closestPoint(master, p[0], p[1], p[2], hit, within) || onBorder(master, hit)) continue;
    pseudoNormal(master, hit, n);
    if (sameWay(scan, m, i, n)) on++;
  }
  return on / count;
}

/** The same from the tabulated field: distance along the nearest vertex's normal. */
function roughShareOn(scan: Sample, master: Surface, m: Matrix, points: number, within: number): number {
  const field = nearestField(master);
  const count = Math.min(points, scan.count);
  const q = master.mesh.positions;
  let on = 0;
  for (let i = 0; i < count; i++) {
    const p = applyPoint(m, [scan.points[3 * i], scan.points[3 * i + 1], scan.points[3 * i + 2]]);
    const v = nearVertex(field, p[0], p[1], p[2]);
    if (v < 0) continue;
    for (let k = 0; k < 3; k++) n[k] = master.vertexNormals[3 * v + k];
    const d = [p[0] - q[3 * v], p[1] - q[3 * v + 1], p[2] - q[3 * v + 2]];
    if (Math.abs(d[0] * n[0] + d[1] * n[1] + d[2] * n[2]) < within && Math.hypot(d[0], d[1], d[2]) < within + 1 && sameWay(scan, m, i, n))
      on++;
  }
  return on / count;
}

const sameWay = (scan: Sample, m: Matrix, i: number, normal: Vec3): boolean => normalAlong(scan, i, m, normal) > 0.5 * length(normal);

/** The first `keep` candidates that are not nearly the same pose as a better one. */
function distinct(pool: readonly CoarseFit[], keep: number): CoarseFit[] {
  const out: CoarseFit[] = [];
  for (const c of pool) {
    if (out.length === keep) break;
    const near = out.some((o) => {
      const a = applyPoint(o.matrix, [0, 0, 0]);
      const b = applyPoint(c.matrix, [0, 0, 0]);
      const x = applyDirection(o.matrix, [1, 0, 0]);
      const y = applyDirection(c.matrix, [1, 0, 0]);
      const z = applyDirection(o.matrix, [0, 0, 1]);
      const w = applyDirection(c.matrix, [0, 0, 1]);
      return length(sub(a, b)) < 0.3 && angleBetween(x, y) < 2 && angleBetween(z, w) < 2;
    });
    if (!near) out.push(c);
  }
  return out;
}
