import { leastSquares } from '../../linalg/least-squares.ts';
import { DEG, toDegrees } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import { smoothAround } from '../../segment/around.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { fitDirection } from '../../segment/polyline.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal } from '../../spatial/surface.ts';
import { aroundStats } from '../around-stats.ts';
import { finishScatter } from '../uncertainty/finish-scatter.ts';
import { alongFinishLine, type CrownContext, marginHeights } from './context.ts';

/** mm over which the two directions are taken, inside and outside of the edge. */
const INSIDE_MM = 0.2;
const OUTSIDE_MM = 0.5;
/** Times the scan's spacing from the edge within which a scan has blunted it, and mm of floor past that from which its course is told. */
const BLUNTED = 0.75;
const COURSE_MM = 0.4;
/** Places of the floor below which its bend is not told, and the weight of the edge itself, which is found less well than they are. */
const BENT_FROM = 4;
const EDGE_WEIGHT = 0.25;
/** mm of uncut surface outside that is the least to give a direction. */
const OUTSIDE_LEAST_MM = 0.15;

/** Cavosurface angle at each azimuth, smoothed over about 1 mm. */
export function marginExits(c: CrownContext): (number | null)[] {
  const heights = marginHeights(c);
  return smoothAround(
    c.anatomy.profiles.map((p, k) => {
      const z = c.finishZ[k];
      const h = heights[k];
      const r = c.finishR[k];
      // The edge smoothed along the finish line: a single half plane's own would swing the first 0.2 mm.
      const edge = r !== null && z !== null ? { r, z } : null;
      if (!p || !edge) return null;
      // Without a gingival margin at this azimuth nothing but the gingiva's own distance ends the scanned surface.
      const outside =
        uncutBeside(c, c.azimuths[k], edge, h) ?? scannedBeside(p, edge, c.anatomy.region.tau, h === null ? -Infinity : edge.z - h);
      return outside && exitAngle(p, edge, c.anatomy.region.spacing, outside);
    }),
    5,
  );
}

/** mm under and over the edge between which the uncut surface's direction is taken from the master: what was cut away continues it. */
const UNDER = 0.3;
const OVER = 0.2;
/** mm over the gingiva within which a scanned master rounds the crease between both. */
const CREASE = 0.25;

/** Direction of the uncut surface beside the edge, downward in its half plane, from the master: a scan shows less of it than the gingiva and its own rounding leave. */
function uncutBeside(
  { anatomy: { master } }: CrownContext,
  azimuth: number,
  edge: Edge,
  height: number | null,
): readonly [number, number] | null {
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  const [s, c] = [Math.sin(azimuth * DEG), Math.cos(azimuth * DEG)];
  let [r, z] = [0, 0];
  const under = height === null ? UNDER : Math.max(0, Math.min(UNDER, height - CREASE));
  for (let dz = -under; dz <= OVER + 1e-9; dz += 0.1) {
    if (!closestPoint(master.target, edge.r * s, edge.r * c, edge.z + dz, hit, 0.5) || onBorder(master.target, hit)) continue;
    pseudoNormal(master.target, hit, normal);
    const l = Math.hypot(...normal) || 1;
    r += (normal[0] * s + normal[1] * c) / l;
    z += normal[2] / l;
  }
  const l = Math.hypot(r, z);
  return l > 1 && r > 0 ? [z / l, -r / l] : null;
}

/** The same from the scan, where the master shows none: between the edge and the gingiva, 0.5 mm at the most. */
function scannedBeside(p: Profile, finish: Edge, tau: number, gingiva: number): readonly [number, number] | null {
  const { r, z, depth } = p.outside;
  const from = (i: number): number => Math.hypot(r[i] - finish.r, z[i] - finish.z);
  let start = 0;
  while (start < r.length && (Math.abs(depth[start]) > 0.7 * tau || from(start) < 0.04)) start++;
  let end = start;
  while (end < r.length && from(end) <= OUTSIDE_MM && Math.abs(depth[end]) < tau && z[end] > gingiva + 0.03) end++;
  const found = (end - start) * STEP < OUTSIDE_LEAST_MM ? null : fitDirection(r, z, start, end);
  return found && [found[0], found[1]];
}

interface Edge {
  readonly r: number;
  readonly z: number;
}

function exitAngle(p: Profile, finish: Edge, spacing: number, outside: readonly [number, number]): number | null {
  // Positions along the profile are counted from the refined edge, not from where the depth crosses τ.
  const from = (r: number, z: number): number => Math.hypot(r - finish.r, z - finish.z);
  const sharp = Math.max(0.03, BLUNTED * spacing);
  const first = p.r.findIndex((r, i) => from(r, p.z[i]) > sharp && r <= finish.r + 0.02);
  if (first < 0) return null;
  let last = first;
  const foot = p.wall ? Math.max(first + 2, p.wall.from) : p.r.length;
  while (last < Math.min(foot, p.r.length) && from(p.r[last], p.z[last]) <= sharp + COURSE_MM + STEP / 2) last++;
  const inside = startOf(finish, p.r.slice(first, last), p.z.slice(first, last));
  if (!inside) return null;
  const cos = inside[0] * outside[0] + inside[1] * outside[1];
  return toDegrees(Math.acos(Math.max(-1, Math.min(1, cos))));
}

/**
 * Direction of a floor's first 0.2 mm, by a parabola through the places past what the scan has blunted: a floor that curves up leans more, the farther
 * inside it is read, and next to the edge a scan shows neither.
 */
function startOf(edge: Edge, r: readonly number[], z: readonly number[]): readonly [number, number] | null {
  const n = r.length;
  if (n < 2) return null;
  const [mr, mz] = [r, z].map((v) => v.reduce((s, q) => s + q, 0) / n);
  const l = Math.hypot(mr - edge.r, mz - edge.z);
  if (!(l > 0)) return null;
  const [er, ez] = [(mr - edge.r) / l, (mz - edge.z) / l];
  const f = (s: number): number[] => (n < BENT_FROM ? [1, s] : [1, s, s * s]);
  const fit = leastSquares([
    ...r.map((q, i) => ({ f: f((q - edge.r) * er + (z[i] - edge.z) * ez), x: (z[i] - edge.z) * er - (q - edge.r) * ez, w: 1 })),
    { f: f(0), x: 0, w: EDGE_WEIGHT },
  ]);
  if (!fit) return null;
  const slope = fit[1] + (fit[2] ?? 0) * INSIDE_MM;
  const along = 1 / Math.hypot(1, slope);
  return [(er - slope * ez) * along, (ez + slope * er) * along];
}

/**
 * Exit (cavosurface) angle of the margin: between its floor and the uncut surface outside, through the tooth.
 * @formula angle between the direction of the floor's first 0.2 mm inward (a parabola through its 0.4 mm past what the scan has blunted) and of the master's uncut surface from 0.3 mm under to 0.2 mm over the edge; where the master shows none, the scan's first 0.5 mm outward
 * @units degrees; 90 is a butt, towards 180 the edge runs out like a feather
 * @frame tooth, in the plane of the azimuth
 * @fails no-finish-line (also where the gingiva hides the surface outside)
 * @source own definition, docs/definitions.md
 * @example a shoulder across a cylinder's axis leaves at 90
 */
export function marginExit(c: CrownContext): Reading[] {
  return aroundStats({
    name: 'margin.exit',
    values: marginExits(c),
    ...alongFinishLine(c),
    stats: ['min', 'p05', 'median', 'mean', 'p95', 'max'],
    // Degrees per millimetre: the edge that is off turns the direction of the 0.2 mm inside it.
    each: { off: finishScatter(c), middle: 175, low: 300, high: 300 },
    // Degrees by which the bend of a floor towards its edge is not told: shared by all places.
    common: 3,
    reason: 'no-finish-line',
  });
}
