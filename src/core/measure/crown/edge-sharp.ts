import { type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { fitDirection } from '../../segment/polyline.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownContext } from './context.ts';

/** mm of profile on either side of an edge that give its two directions, and mm left out at the edge itself. */
const ARM_MM = 0.6;
const GAP_MM = 0.24;
/** degrees: least turn that makes an edge. */
const LEAST_TURN = 35;

/**
 * Sharp convex line angles: how much edge across the half planes has a radius under 0.2 mm, away from the finish line.
 * @formula where a profile turns outward by ≥ 35°: R = off ÷ (1 / sin(α/2) − 1), off = distance from the corner of the two arms' lines to the profile, α the angle between the arms; length = Σ r Δφ where R < 0.2
 * @units mm
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example a frustum's square top edge is sharp all round: 2πr
 */
export function edgeSharp(c: CrownContext): Reading[] {
  const { profiles } = c.anatomy;
  const n = profiles.length;
  const seen = profiles.filter((p) => p?.wall).length;
  if (seen / n < THRESHOLDS.coverageLeast) return refusal('edge.sharp', null, ['value'], 'no-wall', seen / n);
  const radii = profiles.map((p) => (p?.wall ? sharpest(p) : null));
  let length = 0;
  let least: { k: number; radius: number; i: number } | null = null;
  radii.forEach((q, k) => {
    if (!q) return;
    // Noise makes single half planes look sharp or round: the middle of five decides.
    const five = [-2, -1, 0, 1, 2].flatMap((j) => radii[(k + j + n) % n]?.radius ?? []).sort((a, b) => a - b);
    const radius = five[five.length >> 1];
    if (radius >= THRESHOLDS.sharpRadius_mm) return;
    length += ((profiles[k] as Profile).r[q.i] * 2 * Math.PI) / n;
    if (!least || radius < least.radius) least = { k, radius, i: q.i };
  });
  const found = least as { k: number; radius: number; i: number } | null;
  const at = found && {
    azimuth: c.azimuths[found.k],
    point: radialPoint(c.azimuths[found.k], (profiles[found.k] as Profile).r[found.i], (profiles[found.k] as Profile).z[found.i]),
  };
  return [reading({ name: 'edge.sharp', value: length, U: Math.max(1, 0.15 * length), at, coverage: seen / n, samples: seen })];
}

/** The sharpest convex turn of a profile above its wall's foot. */
function sharpest(p: Profile): { radius: number; i: number } | null {
  const arm = Math.round(ARM_MM / STEP);
  const gap = Math.round(GAP_MM / STEP);
  let best: { radius: number; i: number } | null = null;
  for (let i = (p.wall as { from: number }).from + gap; i + gap + 4 < p.r.length; i++) {
    const a = fitDirection(p.r, p.z, Math.max(0, i - gap - arm), i - gap);
    const b = fitDirection(p.r, p.z, i + gap, Math.min(p.r.length, i + gap + arm));
    if (!a || !b) continue;
    // Points run inward and up: turning towards the tooth's inside is a convex edge.
    const turn = Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]);
    if (turn < (LEAST_TURN * Math.PI) / 180) continue;
    const half = (Math.PI - turn) / 2;
    const det = a[0] * b[1] - a[1] * b[0];
    const t = ((b[2] - a[2]) * b[1] - (b[3] - a[3]) * b[0]) / det;
    const corner = [a[2] + t * a[0], a[3] + t * a[1]];
    let off = Infinity;
    for (let j = i - gap; j <= i + gap; j++) off = Math.min(off, Math.hypot(p.r[j] - corner[0], p.z[j] - corner[1]));
    const radius = off / (1 / Math.sin(half) - 1);
    if (Number.isFinite(radius) && (!best || radius < best.radius)) best = { radius, i };
  }
  return best;
}
