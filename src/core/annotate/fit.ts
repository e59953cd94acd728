import type { Matrix } from '../linalg/rigid.ts';
import { solveSymmetric } from '../linalg/solve.ts';
import { cross, dot, length, unit, type Vec3 } from '../linalg/vec.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal, type Surface } from '../spatial/surface.ts';
import type { Template } from './template.ts';

/** What is laid on a scan: points of a crown with their normals, in its own frame. */
export type Form = Pick<Template, 'points' | 'normals'>;

/** A template laid on a scan: stretched along its own axes, turned, and moved. */
export interface Laid {
  /** Columns are the tooth's mesial, facial and occlusal axes in the scan's frame. */
  readonly axes: readonly [Vec3, Vec3, Vec3];
  readonly at: Vec3;
  /** Stretch along mesial, facial, occlusal. */
  readonly size: Vec3;
  /** mm: root mean square distance of the half of the template that lies nearest. */
  readonly rms: number;
  /** Share of the template's crown that lies within 0.3 mm of the scan and looks the same way. */
  readonly share: number;
}

/** mm */
const NEAR = 0.3;

export const toScan = (l: Pick<Laid, 'axes' | 'at' | 'size'>, q: Vec3): Vec3 => {
  const [x, y, z] = [q[0] * l.size[0], q[1] * l.size[1], q[2] * l.size[2]];
  const [a, b, c] = l.axes;
  return [l.at[0] + a[0] * x + b[0] * y + c[0] * z, l.at[1] + a[1] * x + b[1] * y + c[1] * z, l.at[2] + a[2] * x + b[2] * y + c[2] * z];
};
/** A point of the scan in the tooth's own frame, mm, not stretched. */
export const inTooth = (l: Pick<Laid, 'axes' | 'at'>, p: Vec3): Vec3 => {
  const d: Vec3 = [p[0] - l.at[0], p[1] - l.at[1], p[2] - l.at[2]];
  return [dot(l.axes[0], d), dot(l.axes[1], d), dot(l.axes[2], d)];
};
/** A point of the scan in the template's frame. */
export const toTemplate = (l: Pick<Laid, 'axes' | 'at' | 'size'>, p: Vec3): Vec3 => {
  const q = inTooth(l, p);
  return [q[0] / l.size[0], q[1] / l.size[1], q[2] / l.size[2]];
};

export interface FitOptions {
  readonly points: number;
  readonly rounds: number;
  /** mm: distances beyond which a point no longer pulls, from the first round to the last. */
  readonly reach: readonly [first: number, last: number];
  /** Standard deviation that a size may differ from the usual one by, as a share; 0 keeps all sizes. */
  readonly stretch: number;
}

export type Start = Pick<Laid, 'axes' | 'at' | 'size'>;

/**
 * Lays a template on a scan by point-to-plane steps that turn, move and stretch it; what lies far off or looks another way
 * does not pull (Tukey's weight).
 * @source Chen and Medioni 1992; Tukey's biweight
 */
export function layOn(scan: Surface, t: Form, start: Start, o: FitOptions): Laid {
  let pose = { axes: start.axes, at: start.at, size: start.size };
  const n = t.points.length / 3;
  const step = Math.max(1, n / o.points);
  const hints = new Int32Array(n).fill(-1);
  for (let round = 0; round < o.rounds; round++) {
    const reach = o.reach[0] * (o.reach[1] / o.reach[0]) ** (round / Math.max(1, o.rounds - 1));
    const next = improve(scan, t, pose, step, reach, o.stretch, hints);
    if (!next) break;
    pose = next;
  }
  return { ...pose, ...quality(scan, t, pose, step) };
}

const hit = newClosest();
const normal: [number, number, number] = [0, 0, 0];

function improve(scan: Surface, t: Form, pose: Start, step: number, reach: number, stretch: number, hints: Int32Array): Start | null {
  const A = new Float64Array(81);
  const b = new Float64Array(9);
  const J = new Float64Array(9);
  let used = 0;
  for (let k = 0; k < t.points.length / 3; k += step) {
    const i = Math.floor(k);
    const q: Vec3 = [t.points[3 * i], t.points[3 * i + 1], t.points[3 * i + 2]];
    const p = toScan(pose, q);
    if (!closestPoint(scan, p[0], p[1], p[2], hit, reach, hints[i])) continue;
    hints[i] = hit.slot;
    if (onBorder(scan, hit)) continue;
    pseudoNormal(scan, hit, normal);
    const own = turned(pose, t.normals, i);
    if (dot(own, normal) < 0.5) continue;
    const r = dot(normal, [p[0] - hit.x, p[1] - hit.y, p[2] - hit.z]);
    const w = (1 - Math.min(1, (r / reach) ** 2)) ** 2;
    const arm: Vec3 = [p[0] - pose.at[0], p[1] - pose.at[1], p[2] - pose.at[2]];
    const moment = cross(arm, normal);
    for (let d = 0; d < 3; d++) {
      J[d] = moment[d];
      J[3 + d] = normal[d];
      J[6 + d] = q[d] * pose.size[d] * dot(pose.axes[d], normal);
    }
    for (let a = 0; a < 9; a++) {
      b[a] -= w * J[a] * r;
      for (let c = 0; c <= a; c++) A[9 * a + c] += w * J[a] * J[c];
    }
    used++;
  }
  if (used < 20) return null;
  for (let a = 0; a < 9; a++) for (let c = a + 1; c < 9; c++) A[9 * a + c] = A[9 * c + a];
  // Sizes are held near the usual ones as by so many points of a tenth of a millimetre's error.
  for (let d = 0; d < 3; d++) {
    const hold = stretch > 0 ? (0.1 / stretch) ** 2 * HOLD : 1e9;
    A[9 * (6 + d) + 6 + d] += hold;
    b[6 + d] -= hold * Math.log(pose.size[d]);
  }
  const x = solveSymmetric(A, b, 9);
  if (!x) return null;
  const turn: Vec3 = [x[0], x[1], x[2]];
  const angle = Math.min(0.35, length(turn));
  const R = angle > 1e-9 ? rotate(unit(turn), angle) : null;
  const axes = pose.axes.map((a) => (R ? R(a) : a)) as [Vec3, Vec3, Vec3];
  const z = unit(axes[2]);
  const xs = unit([0, 1, 2].map((d) => axes[0][d] - dot(axes[0], z) * z[d]) as [number, number, number]);
  const grown = (d: number): number => Math.min(1.4, Math.max(0.7, pose.size[d] * Math.exp(Math.max(-0.1, Math.min(0.1, x[6 + d])))));
  return {
    axes: [xs, cross(z, xs), z],
    at: [pose.at[0] + x[3], pose.at[1] + x[4], pose.at[2] + x[5]],
    size: [grown(0), grown(1), grown(2)],
  };
}

/** How many points the usual sizes weigh. */
const HOLD = 60;

function turned(pose: Start, normals: Float64Array, i: number): Vec3 {
  const n: Vec3 = [normals[3 * i] / pose.size[0], normals[3 * i + 1] / pose.size[1], normals[3 * i + 2] / pose.size[2]];
  const [a, b, c] = pose.axes;
  return unit([a[0] * n[0] + b[0] * n[1] + c[0] * n[2], a[1] * n[0] + b[1] * n[1] + c[1] * n[2], a[2] * n[0] + b[2] * n[1] + c[2] * n[2]]);
}

const rotate = (axis: Vec3, angle: number): ((v: Vec3) => Vec3) => {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return (v) => {
    const d = dot(axis, v) * (1 - c);
    const x = cross(axis, v);
    return [v[0] * c + x[0] * s + axis[0] * d, v[1] * c + x[1] * s + axis[1] * d, v[2] * c + x[2] * s + axis[2] * d];
  };
};

function quality(scan: Surface, t: Form, pose: Start, step: number): { rms: number; share: number } {
  const distances: number[] = [];
  let near = 0;
  let count = 0;
  for (let k = 0; k < t.points.length / 3; k += step) {
    const i = Math.floor(k);
    const p = toScan(pose, [t.points[3 * i], t.points[3 * i + 1], t.points[3 * i + 2]]);
    count++;
    if (!closestPoint(scan, p[0], p[1], p[2], hit, 4)) {
      distances.push(2);
      continue;
    }
    pseudoNormal(scan, hit, normal);
    const d = Math.sqrt(hit.distanceSquared);
    const same = dot(turned(pose, t.normals, i), normal) > 0.7 && !onBorder(scan, hit);
    distances.push(same ? d : Math.max(d, 0.8));
    if (same && d < NEAR) near++;
  }
  distances.sort((a, b) => a - b);
  const half = distances.slice(0, Math.ceil(distances.length * 0.7));
  return { rms: Math.sqrt(half.reduce((s, d) => s + d * d, 0) / half.length), share: near / count };
}

/** The laid tooth's axes as a turn from its own frame to the scan's. */
export const placeOf = (l: Pick<Laid, 'axes' | 'at'>): Matrix => [
  ...[0, 1, 2].flatMap((r) => [l.axes[0][r], l.axes[1][r], l.axes[2][r], l.at[r]]),
  0,
  0,
  0,
  1,
];

/** A start with the axis upward and mesial turned by so many degrees about it. */
export function standing(up: Vec3, degrees: number, at: Vec3): Start {
  const side = Math.abs(up[0]) < 0.9 ? unit(cross(up, [1, 0, 0])) : unit(cross(up, [0, 1, 0]));
  const R = rotate(up, (degrees * Math.PI) / 180);
  const x = R(side);
  return { axes: [x, cross(up, x), up], at, size: [1, 1, 1] };
}
