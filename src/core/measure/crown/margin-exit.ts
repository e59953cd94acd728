import { toDegrees } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import { smoothAround } from '../../segment/around.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { fitDirection } from '../../segment/polyline.ts';
import { aroundStats } from '../around-stats.ts';
import { finishScatter } from '../uncertainty/finish-scatter.ts';
import { alongFinishLine, type CrownContext, marginHeights } from './context.ts';

/** mm over which the two directions are taken, inside and outside of the edge. */
const INSIDE_MM = 0.2;
const OUTSIDE_MM = 0.5;
/** mm of uncut surface outside that is the least to give a direction. */
const OUTSIDE_LEAST_MM = 0.15;

/** Cavosurface angle at each azimuth, smoothed over about 1 mm. */
export function marginExits(c: CrownContext): (number | null)[] {
  const heights = marginHeights(c);
  return smoothAround(
    c.anatomy.profiles.map((p, k) => {
      const z = c.finishZ[k];
      const h = heights[k];
      // Without a gingival margin at this azimuth nothing but the gingiva's own distance ends the uncut surface.
      const r = c.finishR[k];
      // The edge smoothed along the finish line: a single half plane's own would swing the first 0.2 mm.
      const edge = r !== null && z !== null ? { r, z } : null;
      return p && edge ? exitAngle(p, edge, c.anatomy.region.tau, h !== null ? edge.z - h : Number.NEGATIVE_INFINITY) : null;
    }),
    5,
  );
}

function exitAngle(p: Profile, finish: { r: number; z: number }, tau: number, gingiva: number): number | null {
  // Positions along the profile are counted from the refined edge, not from where the depth crosses τ.
  const from = (r: number, z: number): number => Math.hypot(r - finish.r, z - finish.z);
  const first = p.r.findIndex((r, i) => from(r, p.z[i]) > 0.03 && r <= finish.r + 0.02);
  if (first < 0) return null;
  // The edge itself is the first of the points: a floor that curves up would lean more, the farther inside it is read.
  let last = first;
  while (last < p.r.length && from(p.r[last], p.z[last]) <= INSIDE_MM + STEP / 2) last++;
  const inside = fitDirection([finish.r, ...p.r.slice(first, last)], [finish.z, ...p.z.slice(first, last)], 0, last - first + 1);
  // Outside runs along the uncut tooth until the gingiva or 0.5 mm.
  const { r, z, depth } = p.outside;
  let start = 0;
  while (start < r.length && (Math.abs(depth[start]) > 0.7 * tau || from(r[start], z[start]) < 0.04)) start++;
  let end = start;
  while (end < r.length && from(r[end], z[end]) <= OUTSIDE_MM && Math.abs(depth[end]) < tau && z[end] > gingiva + 0.03) end++;
  if ((end - start) * STEP < OUTSIDE_LEAST_MM || !inside) return null;
  const outside = fitDirection(r, z, start, end);
  if (!outside) return null;
  const cos = inside[0] * outside[0] + inside[1] * outside[1];
  return toDegrees(Math.acos(Math.max(-1, Math.min(1, cos))));
}

/**
 * Exit (cavosurface) angle of the margin: between its floor and the uncut surface outside, through the tooth.
 * @formula angle between the direction of the floor's first 0.2 mm inward and of the uncut surface's first 0.5 mm outward
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
    common: 0.3,
    reason: 'no-finish-line',
  });
}
