import { type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { fitDirection } from '../../segment/polyline.ts';
import { madSigma, median } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownContext } from './context.ts';

/** mm of profile on either side of an edge that give its two directions, and mm left out at the edge itself. */
const ARM_MM = 0.6;
const GAP_MM = 0.24;
/** degrees: least turn that makes an edge. */
const LEAST_TURN = 35;
/** Half planes on each side whose edges are read together, and mm within which they are one edge. */
const BESIDE = 4;
const SAME_MM = 0.4;
/** Half planes on each side that must show it too; otherwise it is noise. */
const LEAST_SEEN = 3;

/**
 * Sharp convex line angles: how much edge across the half planes has a radius under 0.2 mm, away from the finish line.
 * @formula every place where a profile turns outward most, by ≥ 35°: R = off ÷ (1 / sin(α/2) − 1), off = distance from the corner of the two arms' lines to the profile along their bisector, α the angle between the arms; length = Σ r Δφ where the median R of the same edge over ± 8° is under 0.2; U = length whose R lies within its noise of 0.2
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
  const edges = profiles.map((p) => (p?.wall ? convexTurns(p) : []));
  let length = 0;
  let unsure = 0;
  let least: { k: number; radius: number; edge: Edge } | null = null;
  edges.forEach((own, k) => {
    for (const edge of own) {
      // Noise makes single half planes look sharp or round: those beside them show the same edge, and their middle decides.
      const beside: number[] = [];
      for (let j = -BESIDE; j <= BESIDE; j++) {
        const same = edges[(k + j + n) % n].reduce<Edge | null>(
          (best, e) => (apart(e, edge) <= SAME_MM && (!best || apart(e, edge) < apart(best, edge)) ? e : best),
          null,
        );
        if (same) beside.push(same.radius);
      }
      if (beside.length < LEAST_SEEN) continue;
      const radius = median(beside);
      const u = (1.25 * madSigma(beside)) / Math.sqrt(beside.length / 2);
      const run = (edge.r * 2 * Math.PI) / n;
      if (Math.abs(radius - THRESHOLDS.sharpRadius_mm) < 2 * u) unsure += run;
      if (radius >= THRESHOLDS.sharpRadius_mm) continue;
      length += run;
      if (!least || radius < least.radius) least = { k, radius, edge };
    }
  });
  const found = least as { k: number; radius: number; edge: Edge } | null;
  const at = found && { azimuth: c.azimuths[found.k], point: radialPoint(c.azimuths[found.k], found.edge.r, found.edge.z) };
  const U = Math.max(1, 0.05 * length, unsure);
  return [reading({ name: 'edge.sharp', value: length, U, at, coverage: seen / n, samples: seen })];
}

interface Edge {
  readonly r: number;
  readonly z: number;
  readonly radius: number;
  /** Radians by which the profile turns. */
  readonly turn: number;
}

const apart = (a: Edge, b: Edge): number => Math.hypot(a.r - b.r, a.z - b.z);

/** Every convex turn of a profile above its wall's foot: where the turn is largest within its own surroundings. */
function convexTurns(p: Profile): Edge[] {
  const arm = Math.round(ARM_MM / STEP);
  const gap = Math.round(GAP_MM / STEP);
  const all: (Edge & { i: number })[] = [];
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
    // From the corner towards the inside: the three places nearest to that line, so that no single one decides.
    const inward = [b[0] - a[0], b[1] - a[1]];
    const l = Math.hypot(inward[0], inward[1]) || 1;
    const near: { side: number; off: number }[] = [];
    for (let j = i - gap; j <= i + gap; j++) {
      const [x, y] = [p.r[j] - corner[0], p.z[j] - corner[1]];
      near.push({ side: Math.abs(x * inward[1] - y * inward[0]) / l, off: (x * inward[0] + y * inward[1]) / l });
    }
    near.sort((q, s) => q.side - s.side);
    const off = (near[0].off + near[1].off + near[2].off) / 3;
    const radius = off / (1 / Math.sin(half) - 1);
    if (Number.isFinite(radius)) all.push({ i, r: p.r[i], z: p.z[i], radius, turn });
  }
  return all.filter((e) => all.every((q) => Math.abs(q.i - e.i) > 2 * gap || q.turn < e.turn || (q.turn === e.turn && q.i >= e.i)));
}
