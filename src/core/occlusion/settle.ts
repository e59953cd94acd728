import { applyDirection, applyPoint, fromRotation, fromTranslation, IDENTITY, type Matrix, multiply } from '../linalg/rigid.ts';
import { solveSymmetric } from '../linalg/solve.ts';
import { add, byAxis, cross, distance, dot, length, scale, sub, toDegrees, toRadians, unit, type Vec3 } from '../linalg/vec.ts';
import { type Mesh, vertexAreas } from '../mesh/mesh.ts';
import { castRay } from '../spatial/ray.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal, type Surface, signOf } from '../spatial/surface.ts';

/** One place where the arches touch, in the arch's frame. */
export interface Contact {
  readonly at: Vec3;
  /** mm by which the surfaces overlap there at the most. */
  readonly depth_mm: number;
}

export interface Settled {
  /** Opposing file frame → arch file frame. */
  readonly matrix: Matrix;
  readonly contacts: readonly Contact[];
  readonly deepest_mm: number;
  /** How far the middle of the contacts moved from where it was put, across the bite, and how far it turned. */
  readonly moved_mm: number;
  readonly turned_deg: number;
  /** Fewer than three contacts, or all in one line: the arches rock. */
  readonly isRocking: boolean;
}

/** How far the place from which it settles gives way: across the bite under a force as large as the load, and in turn and tilt under that force at an arm of 3 mm. */
export interface Give {
  readonly across_mm: number;
  readonly turn_deg: number;
  readonly tilt_deg: number;
}
/** A bite scan holds closely; three points set by hand do not. */
export const HELD_BY = {
  bite: { across_mm: 0.02, turn_deg: 0.05, tilt_deg: 0.3 },
  hand: { across_mm: 2, turn_deg: 6, tilt_deg: 10 },
} as const satisfies Record<string, Give>;

/** mm² · mm: overlap under which the arches rest: teeth and scans give by some hundredths of a millimetre. */
const LOAD = 0.02;
/** mm within which an opposing point can come into contact, and by which the arches are first taken apart. */
const NEAR = 2.5;
const APART = 6;
const ROUNDS = 150;
/** mm: arm at which the load turns, and arm at which a step's turn counts as a move. */
const ARM = 3;
const TURNING = 10;
/** mm that one round moves at the most. */
const STEP = 0.12;
/** mm of overlap up to which a contact is looked for. */
const DEEPEST = 4;
/** mm of gap that still counts as contact, and within which places are one contact. */
const TOUCH = 0.03;
const ONE_CONTACT = 1.2;
/** mm² of the triangle between three contacts below which they lie in one line. */
const LEAST_SUPPORT = 4;

/**
 * Lowers the opposing arch until it touches, and lets it rest on its contacts: the place of least energy under a small load along the
 * arch's occlusal direction, overlapping surface pushing back in proportion, held where it was put as closely as that place is known.
 * @formula min over poses of load · height + ½ Σ area · overlap² + ½ stiffness · (shift, turn)²
 * @units mm, degrees
 * @fails null where the arches do not lie over one another
 * @frame the arch's own file
 * @source elastic foundation (Winkler) contact; own definition, docs/definitions.md
 */
export function settle(arch: Surface, opposing: Mesh, start: Matrix, up: Vec3, give: Give): Settled | null {
  const above = overArch(arch, opposing, start, up);
  if (above.length === 0) return null;
  const drop = above.reduce((m, q) => Math.min(m, q.gap), Infinity);
  const points = above.filter((q) => q.gap < drop + NEAR).map((q) => ({ at: add(q.at, scale(up, -drop)), area: q.area }));
  const rest: Rest = { arch, points, centre: middle(points.map((q) => q.at)), axes: [...across(up), up], give };
  let best = stateAt(rest, IDENTITY);
  let reach = STEP;
  for (let round = 0; round < ROUNDS && reach > 1e-4; round++) {
    const move = stepOf(best, reach);
    if (!move) break;
    const next = stateAt(rest, multiply(motion(rest, move), best.pose));
    if (next.energy < best.energy) {
      best = next;
      reach = Math.min(STEP, reach * 1.5);
    } else reach *= 0.4;
  }
  const shift = sub(applyPoint(best.pose, rest.centre), rest.centre);
  return {
    matrix: multiply(multiply(best.pose, fromTranslation(scale(up, -drop))), start),
    ...touch(contactsOf(rest, best.pose)),
    moved_mm: length(sub(shift, scale(up, dot(shift, up)))),
    turned_deg: turnOf(best.pose),
  };
}

interface Above {
  readonly at: Vec3;
  readonly area: number;
  /** mm straight down to the arch. */
  readonly gap: number;
}

/** Points of the opposing arch that have the arch under them, with the way down to it. */
function overArch(arch: Surface, opposing: Mesh, start: Matrix, up: Vec3): Above[] {
  const areas = vertexAreas(opposing);
  const out: Above[] = [];
  const p = opposing.positions;
  const down = scale(up, -1);
  for (let v = 0; v < areas.length; v++) {
    if (areas[v] === 0) continue;
    const at = applyPoint(start, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const way = castRay(arch, add(at, scale(up, APART)), down, 4 * APART);
    if (way !== null) out.push({ at, area: areas[v], gap: way - APART });
  }
  return out;
}

const middle = (points: readonly Vec3[]): Vec3 => byAxis((k) => points.reduce((s, p) => s + p[k], 0) / points.length);

function across(up: Vec3): [Vec3, Vec3] {
  const x = unit(cross(up, Math.abs(up[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0]));
  return [x, cross(up, x)];
}

interface Rest {
  readonly arch: Surface;
  readonly points: readonly { readonly at: Vec3; readonly area: number }[];
  readonly centre: Vec3;
  /** Two across the bite, and the occlusal direction. */
  readonly axes: readonly [Vec3, Vec3, Vec3];
  readonly give: Give;
}

interface State {
  readonly pose: Matrix;
  readonly energy: number;
  /** Curvature and slope of the energy by turns about the axes (radians) and moves along them (mm). */
  readonly A: Float64Array;
  readonly b: Float64Array;
}

const hit = newClosest();
const normal: [number, number, number] = [0, 0, 0];

/** Signed distance of a point to the arch, null beyond its border or far off; leaves the normal behind. */
function gapAt(arch: Surface, p: Vec3, limit: number): number | null {
  if (!closestPoint(arch, p[0], p[1], p[2], hit, limit) || onBorder(arch, hit)) return null;
  pseudoNormal(arch, hit, normal);
  return signOf(arch, hit, p[0], p[1], p[2]) * Math.sqrt(hit.distanceSquared);
}

function stateAt({ arch, points, centre, axes, give }: Rest, pose: Matrix): State {
  const A = new Float64Array(36);
  const b = new Float64Array(6);
  const J = new Float64Array(6);
  const c = applyPoint(pose, centre);
  const shift = sub(c, centre);
  let energy = LOAD * dot(shift, axes[2]);
  b[5] -= LOAD;
  const [tilt, turn] = [give.tilt_deg, give.turn_deg].map((d) => (LOAD * ARM) / toRadians(d));
  const stiff = [tilt, tilt, turn, LOAD / give.across_mm, LOAD / give.across_mm];
  const leans = tiltOf(pose, axes);
  [...leans, turnAbout(pose, axes[2]), dot(shift, axes[0]), dot(shift, axes[1])].forEach((x, k) => {
    energy += 0.5 * stiff[k] * x * x;
    A[7 * k] += stiff[k];
    b[k] -= stiff[k] * x;
  });
  for (const q of points) {
    const p = applyPoint(pose, q.at);
    const g = gapAt(arch, p, 1.5);
    if (g === null || g >= 0) continue;
    energy += 0.5 * q.area * g * g;
    const arm = sub(p, c);
    for (let k = 0; k < 3; k++) {
      J[k] = dot(normal, cross(axes[k], arm));
      J[3 + k] = dot(normal, axes[k]);
    }
    for (let i = 0; i < 6; i++) {
      b[i] -= q.area * g * J[i];
      for (let j = 0; j < 6; j++) A[6 * i + j] += q.area * J[i] * J[j];
    }
  }
  return { pose, energy, A, b };
}

/** The step to the least energy nearby, no longer than `reach` (mm, turns over an arm of 10 mm). */
function stepOf({ A, b }: State, reach: number): number[] | null {
  for (let damping = LOAD * 1e-3; damping < 1e3; damping *= 4) {
    const D = A.slice();
    for (let k = 0; k < 6; k++) D[7 * k] += damping * (k < 3 ? TURNING * TURNING : 1);
    const x = solveSymmetric(D, b, 6);
    if (x && Math.hypot(...x.map((v, k) => (k < 3 ? TURNING * v : v))) <= reach) return x;
  }
  return null;
}

function motion({ centre, axes }: Rest, x: readonly number[]): Matrix {
  const turn = byAxis((k) => axes[0][k] * x[0] + axes[1][k] * x[1] + axes[2][k] * x[2]);
  const move = byAxis((k) => axes[0][k] * x[3] + axes[1][k] * x[4] + axes[2][k] * x[5]);
  const angle = length(turn);
  const R = angle > 1e-12 ? fromRotation(turn, angle) : IDENTITY;
  return multiply(fromTranslation(add(centre, move)), multiply(R, fromTranslation(scale(centre, -1))));
}

/** Radians by which a pose leans about the two axes across the bite. */
function tiltOf(pose: Matrix, [x, y, z]: Rest['axes']): [number, number] {
  const q = applyDirection(pose, z);
  return [-Math.atan2(dot(q, y), dot(q, z)), Math.atan2(dot(q, x), dot(q, z))];
}

/** Radians by which a pose turns about an axis. */
function turnAbout(pose: Matrix, axis: Vec3): number {
  const [x] = across(axis);
  const q = applyDirection(pose, x);
  return Math.atan2(dot(cross(x, q), axis), dot(x, q));
}

function turnOf(m: Matrix): number {
  return toDegrees(Math.acos(Math.max(-1, Math.min(1, (m[0] + m[5] + m[10] - 1) / 2))));
}

/** Places at which the resting arches touch, the deepest first. */
function contactsOf({ arch, points }: Pick<Rest, 'arch' | 'points'>, pose: Matrix): Contact[] {
  const touching: Contact[] = [];
  for (const q of points) {
    const p = applyPoint(pose, q.at);
    const g = gapAt(arch, p, DEEPEST);
    if (g !== null && g < TOUCH) touching.push({ at: p, depth_mm: Math.max(0, -g) });
  }
  touching.sort((a, b) => b.depth_mm - a.depth_mm);
  const out: Contact[] = [];
  for (const t of touching) if (out.every((c) => distance(c.at, t.at) > ONE_CONTACT)) out.push(t);
  return out;
}

/** Where two arches touch as they lie, without moving them. */
export function contactsBetween(arch: Surface, opposing: Mesh): Pick<Settled, 'contacts' | 'deepest_mm' | 'isRocking'> {
  const p = opposing.positions;
  const areas = vertexAreas(opposing);
  const points = Array.from(areas, (area, v) => ({ at: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as Vec3, area })).filter((q) => q.area > 0);
  return touch(contactsOf({ arch, points }, IDENTITY));
}

const touch = (contacts: readonly Contact[]): Pick<Settled, 'contacts' | 'deepest_mm' | 'isRocking'> => ({
  contacts,
  deepest_mm: contacts.reduce((m, c) => Math.max(m, c.depth_mm), 0),
  isRocking: supportArea(contacts.map((c) => c.at)) < LEAST_SUPPORT,
});

/** mm² of the largest triangle between three contacts. */
function supportArea(at: readonly Vec3[]): number {
  let most = 0;
  for (let i = 0; i < at.length; i++)
    for (let j = i + 1; j < at.length; j++)
      for (let k = j + 1; k < at.length; k++) most = Math.max(most, length(cross(sub(at[j], at[i]), sub(at[k], at[i]))) / 2);
  return most;
}
