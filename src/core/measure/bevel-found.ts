import { azimuthOf } from '../linalg/sectors.ts';
import { toDegrees, type Vec3, wrapDegrees } from '../linalg/vec.ts';
import { radialPoint } from '../segment/crown/crown.ts';
import { STEP } from '../segment/crown/pieces.ts';
import { fitDirection } from '../segment/polyline.ts';
import { madSigma, median } from '../statistics/quantile.ts';
import type { CrownContext } from './crown/context.ts';

/** degrees round a cusp's azimuth in which its bevel is looked for. */
const ARC = 18;
/** A bevel stands between wall and floor: within these angles of the axis. */
const BETWEEN = [24, 66] as const;
/** mm: narrower than this is the rounding of an edge. */
const LEAST_MM = 0.35;
/** Degrees past the wall's own direction at which the half planes' profiles are laid over one another. */
const ALIGNED_PAST = 20;
/** Half window, in steps, of a direction; and steps before and after the alignment that are looked at. */
const TANGENT = 3;
const BEFORE = 12;
const AFTER = 70;
/** Degrees about the bevel's direction within which a place of a half plane is the bevel's own. */
const ITS_OWN = 12;
/** mm by which a bevel's foot may stand higher or lower in one half plane than in most at its cusp. */
const OFF_LEVEL = 1;
/** Degrees by which the occlusal surface must lean more than the bevel for the bevel to end there. */
const LEAST_STEP = 10;

/** A bevel over the wall at one cusp. */
export interface Bevel {
  readonly angle: number;
  readonly width: number;
  readonly depth: number;
  /** Standard error of each, from the half planes' own scatter. */
  readonly scatter: { readonly angle: number; readonly width: number; readonly depth: number };
  readonly planes: number;
  readonly asked: number;
  readonly at: { readonly azimuth: number; readonly point: Vec3 };
  /** Its edge to the occlusal surface, one point a half plane. */
  readonly edge: readonly Vec3[];
  /** Points on it, half plane after half plane. */
  readonly surface: readonly Vec3[];
}

/** Bevels at the cusps of a role; none where the side turns into the occlusal surface without one. */
export const bevelsFound = (c: CrownContext, role: 'functional' | 'non-functional'): Bevel[] =>
  c.anatomy.master.landmarks.cusps.filter((q) => q.role === role).flatMap((q) => bevelAt(c, azimuthOf(q.at[0], q.at[1])) ?? []);

/** The bevel of the half planes about one cusp; null where the side turns into the occlusal surface without one. */
function bevelAt(c: CrownContext, azimuth: number): Bevel | null {
  const near = c.azimuths.flatMap((a, k) => (Math.abs(wrapDegrees(a - azimuth)) <= ARC ? [k] : []));
  const seen = near.flatMap((k) => {
    const p = c.anatomy.profiles[k];
    if (!p?.wall) return [];
    const lean = directions(p.r, p.z);
    const wall = p.wall.lean;
    let start = Math.max(p.wall.from, Math.round((p.wall.from + p.wall.to) / 2));
    while (start < lean.length && lean[start] < wall + ALIGNED_PAST) start++;
    return start < lean.length - 4 ? [{ k, p, lean, wall, start }] : [];
  });
  if (seen.length === 0) return null;
  // A wall that was taken to end at its foot leads to the margin's own slope.
  const level = median(seen.map((l) => l.p.z[l.start]));
  const lines = seen.filter((l) => Math.abs(l.p.z[l.start] - level) < OFF_LEVEL);
  if (lines.length < Math.max(3, near.length / 3)) return null;
  const theta: number[] = [];
  for (let s = -BEFORE; s < AFTER; s++) {
    const there = lines.flatMap((l) => l.lean[l.start + s] ?? []);
    if (there.length < lines.length / 2) break;
    theta.push(median(there));
  }
  const wall = median(lines.map((l) => l.wall));
  const turn = (i: number): number => Math.abs(theta[i + 2] - theta[i - 2]);
  let flat = -1;
  for (let i = BEFORE; i + 2 < theta.length; i++)
    if (theta[i] - wall >= BETWEEN[0] - 6 && theta[i] >= BETWEEN[0] && theta[i] <= BETWEEN[1] && (flat < 0 || turn(i) < turn(flat)))
      flat = i;
  // A direction that keeps turning is a rounded edge, not a bevel.
  if (flat < 0 || turn(flat) > MOST_TURN) return null;
  const angle = median(theta.slice(flat - 2, flat + 3));
  // The occlusal surface: where it turns least past the bevel.
  let past = flat;
  while (past < theta.length && theta[past] < angle + LEAST_STEP) past++;
  if (past + 3 >= theta.length) return null;
  let occlusal = past;
  for (let i = past; i + 2 < Math.min(theta.length, past + 20); i++) if (turn(i) < turn(occlusal)) occlusal = i;
  const from = crossing(theta, (angle + wall) / 2, flat, -1);
  const to = crossing(theta, (angle + theta[occlusal]) / 2, flat, 1);
  if (from === null || to === null) return null;
  const width = (to - from) * STEP;
  if (width < LEAST_MM) return null;
  const [a, b] = [Math.round(from), Math.round(to)];
  const depths = lines.map((l) => median(l.p.depth.slice(Math.max(0, l.start + a - BEFORE), l.start + b - BEFORE + 1)));
  const point = (l: (typeof lines)[number], i: number): Vec3 => radialPoint(c.azimuths[l.k], l.p.r[i], l.p.z[i]);
  const edge = lines.flatMap((l) => (l.start + b - BEFORE < l.p.r.length ? [point(l, l.start + b - BEFORE)] : []));
  // A bevel is not as wide in every half plane: what runs on in another direction is wall or occlusal surface.
  const surface = lines.flatMap((l) =>
    Array.from({ length: b - a + 1 }, (_, i) => l.start + a - BEFORE + i).flatMap((i) =>
      i < l.p.r.length && Math.abs(l.lean[i] - angle) < ITS_OWN ? [point(l, i)] : [],
    ),
  );
  const middle = lines[lines.length >> 1];
  const i = Math.min(middle.p.r.length - 1, middle.start + Math.round((from + to) / 2) - BEFORE);
  const root = Math.sqrt(Math.max(1, lines.length / 3));
  const angles = lines.flatMap((l) => l.lean[l.start + flat - BEFORE] ?? []);
  return {
    angle,
    width,
    depth: median(depths),
    scatter: {
      angle: madSigma(angles) / root,
      width: (Math.SQRT2 * STEP * madSigma(angles)) / Math.max(4, Math.abs(theta[occlusal] - angle) / 2) / root,
      depth: madSigma(depths) / root,
    },
    planes: lines.length,
    asked: near.length,
    at: { azimuth: c.azimuths[middle.k], point: point(middle, i) },
    edge,
    surface,
  };
}

/** Degrees that a bevel's direction may turn within four steps. */
const MOST_TURN = 9;

/** Lean of a profile at each of its points, degrees from upright, over a third of a millimetre. */
function directions(r: readonly number[], z: readonly number[]): number[] {
  return r.map((_, i) => {
    const d = fitDirection(r, z, Math.max(0, i - TANGENT), Math.min(r.length, i + TANGENT + 1));
    return d ? toDegrees(Math.atan2(-d[0], d[1])) : 0;
  });
}

/** Where a curve passes a level, going one way from a place; null when it does not. */
function crossing(theta: readonly number[], level: number, from: number, way: 1 | -1): number | null {
  for (let i = from; i + way >= 0 && i + way < theta.length; i += way) {
    const [a, b] = [theta[i], theta[i + way]];
    if ((a - level) * (b - level) <= 0 && a !== b) return i + (way * (level - a)) / (b - a);
  }
  return null;
}
