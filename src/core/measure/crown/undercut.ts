import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { DEG, toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { CrownContext } from './context.ts';
import { drawLean } from './draw-direction.ts';

/** mm²: an undercut smaller than this is no place that one could name. */
const SPOT = 0.06;
/** mm: shadow shallower than this is scan noise on an upright wall; and how many times the noise that neighbouring points share. */
const LEAST = 0.03;
const TIMES_SHARED = 2.5;

/** Steps of the profile past the occlusoaxial edge that still belong to its rounding. */
const BEYOND = 5;

/**
 * Undercut: what stays shadowed when one looks along the draw direction (zone null) or along the long axis (zone `long axis`).
 * @formula in each half plane, from the occlusoaxial edge down: largest radius met so far − own radius, both measured across the direction (the largest that 0.06 mm² reach); area where it exceeds 0.03 mm, or 2.5 times the noise that neighbouring points share
 * @units mm, mm²
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example walls leaning out 3° over 4 mm all round hide 0.21 mm; a frustum hides 0
 */
export function undercut(c: CrownContext): Reading[] {
  return [...along(c, null, (a) => (c.draw ? drawLean(c.draw, a) : null)), ...along(c, 'long axis', () => 0)];
}

function along(c: CrownContext, zone: string | null, lean: (azimuth: number) => number | null): Reading[] {
  const { profiles, alignment, region } = c.anatomy;
  const least = Math.max(LEAST, TIMES_SHARED * region.depthNoise);
  const n = profiles.length;
  const seen = profiles.filter((p) => p?.wall).length;
  const covered = c.anatomy.covered.filter(Boolean).length;
  const refuse = (): Reading[] => [
    ...refusal('undercut.depth', zone, ['max'], 'no-wall', seen / Math.max(1, covered)),
    ...refusal('undercut.area', zone, ['value'], 'no-wall', seen / Math.max(1, covered)),
  ];
  if (seen === 0 || seen < covered / 2) return refuse();
  const acrosses = profiles.map((p, k) => {
    const tilt = lean(c.azimuths[k]);
    const tan = tilt === null ? null : Math.tan(tilt * DEG);
    // The top is not looked at: a half plane that runs along an incisal edge folds back and forth with the scan's noise.
    const side = p?.wall && tan !== null ? p.r.slice(0, p.wall.top.index + BEYOND) : null;
    return side && p && tan !== null ? Float64Array.from(side, (r, i) => r - p.z[i] * tan) : null;
  });
  const single = acrosses.map((own) => own && shadowOf(smoothed(own)));
  const shadows = single.map((own, k) => own && sharedWith(single, k, own));
  const hidden: { d: number; cell: number; k: number; i: number }[] = [];
  for (let k = 0; k < n; k++) {
    const s = shadows[k];
    const p = profiles[k];
    if (!s || !p) continue;
    for (let i = 0; i < s.length; i++) if (s[i] > least) hidden.push({ d: s[i], cell: STEP * ((p.r[i] * 2 * Math.PI) / n), k, i });
  }
  // The depth that a spot worth naming reaches: single scan lines lean one way by chance.
  hidden.sort((x, y) => y.d - x.d);
  const area = hidden.reduce((s, h) => s + h.cell, 0);
  let reached = 0;
  const where =
    hidden.find((h) => {
      reached += h.cell;
      return reached >= SPOT;
    }) ?? null;
  const depth = where?.d ?? 0;
  const at = where && {
    azimuth: c.azimuths[where.k],
    point: radialPoint(
      c.azimuths[where.k],
      (profiles[where.k] as { r: readonly number[] }).r[where.i],
      (profiles[where.k] as { z: readonly number[] }).z[where.i],
    ),
  };
  const common = { zone, at, coverage: seen / Math.max(1, covered), samples: seen };
  const tiltError = toDegrees(alignment.turnError) * DEG * 4;
  const U = expanded(
    Math.max(0.35 * alignment.noise, region.depthNoise),
    zone === null ? 0.01 : tiltError,
    methodUncertainty('undercut.depth', 'max'),
  );
  return [
    reading({ name: 'undercut.depth', stat: 'max', value: depth, U, ...common }),
    reading({ name: 'undercut.area', value: where ? area : 0, U: Math.max(0.3, 0.25 * area), ...common }),
  ];
}

/** Mean over 0.3 mm along the profile: undercuts are longer than that. */
function smoothed(across: Float64Array): Float64Array {
  return across.map((_, i) => {
    // Only whole windows: a window cut off at one end would lean on that side.
    const reach = Math.min(2, i, across.length - 1 - i);
    let s = 0;
    for (let d = -reach; d <= reach; d++) s += across[i + d];
    return s / (2 * reach + 1);
  });
}

/**
 * Mean of a profile's shadow with its four neighbours': undercuts are wider than that, noise is not. Averaging radii instead
 * would create steps where the outline turns quickly or profiles have different lengths.
 */
function sharedWith(single: readonly (Float64Array | null)[], k: number, own: Float64Array): Float64Array {
  const n = single.length;
  return own.map((_, i) => {
    let s = 0;
    let m = 0;
    for (let j = -2; j <= 2; j++) {
      const a = single[(k + j + n) % n];
      if (!a) continue;
      s += i < a.length ? a[i] : 0;
      m++;
    }
    return s / m;
  });
}

/** Shadow depth of each profile point; points run from the finish line inward and up, so the top is walked first. */
function shadowOf(across: Float64Array): Float64Array {
  const out = new Float64Array(across.length);
  let reach = -Infinity;
  for (let i = across.length - 1; i >= 0; i--) {
    reach = Math.max(reach, across[i]);
    out[i] = reach - across[i];
  }
  return out;
}
