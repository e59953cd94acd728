import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { cross, dot, sub, toDegrees, toRadians, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { present } from '../../segment/around.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { mean } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';
import { wallHeights } from './wall-height.ts';

/** mm to which a wall's height is known. */
const HEIGHT_KNOWN = 0.08;
/** Degrees between pivots on the finish line, and half the arc of the wall that is looked at across from each. */
const PIVOT_STEP = 10;
const OPPOSITE_HALF = 45;
const LEAST_COSINE = Math.cos(toRadians(OPPOSITE_HALF));

/**
 * Resistance form: a crown that tips about the finish line on one side must run into the wall across.
 * @formula for a pivot every 10°, with the tangent of the finish line as axis: share of the opposite wall's area (± 45°) where (axis × (p − pivot)) · outward normal < 0; limiting taper = ½ asin(height ÷ base) by azimuth: the taper at which half of the opposite wall still resists
 * @units share; degrees
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example a cylinder resists with its whole opposite wall; walls 4 high on a base of 10 that taper by ½ asin(0.4) = 11.8° with the upper half of it
 */
export function resistance(c: CrownContext): Reading[] {
  const n = c.azimuths.length;
  const shares = resistingShares(c);
  const heights = wallHeights(c);
  const limits = c.azimuths.flatMap((_, k) => {
    const h = heights[(k + n / 2) % n];
    const [a, b] = [c.finishR[k], c.finishR[(k + n / 2) % n]];
    return h === null || a === null || b === null ? [] : [{ share: Math.min(1, h / (a + b)), base: a + b }];
  });
  const reason = c.anatomy.covered.every(Boolean) ? 'no-wall' : 'not-covered';
  if (shares.length < 18 || limits.length < n / 2)
    return [...refusal('resistance.share', null, ['min', 'mean'], reason), ...refusal('resistance.taper', null, ['min'], reason)];
  const low = limits.reduce((a, b) => (b.share < a.share ? b : a));
  const least = shares.reduce((a, b) => (b.share < a.share ? b : a));
  const u = methodUncertainty('resistance.share', 'value');
  const coverage = shares.length / (360 / PIVOT_STEP);
  return [
    reading({
      name: 'resistance.share',
      stat: 'min',
      value: least.share,
      U: expanded(u),
      at: { azimuth: least.azimuth },
      coverage,
      samples: shares.length,
    }),
    reading({
      name: 'resistance.share',
      stat: 'mean',
      value: mean(shares.map((s) => s.share)),
      U: expanded(u),
      coverage,
      samples: shares.length,
    }),
    reading({
      name: 'resistance.taper',
      stat: 'min',
      value: toDegrees(Math.asin(low.share) / 2),
      // The steeper the angle, the more a wall's height makes of it.
      U: expanded(
        toDegrees(HEIGHT_KNOWN / low.base / 2 / Math.sqrt(Math.max(0.05, 1 - low.share ** 2))),
        methodUncertainty('resistance.taper', 'min'),
      ),
      coverage,
      samples: present(heights).length,
    }),
  ];
}

/** A place of the finish line about which a crown tips, the axis of that turn, and what resists it. */
interface Pivot {
  readonly azimuth: number;
  readonly axis: Vec3;
  readonly moment: Vec3;
  readonly opposite: Vec3;
  all: number;
  holds: number;
}

/** mm² of opposite wall without which a pivot says nothing. */
const LEAST_OPPOSITE = 0.5;

/** By pivot, the share of the opposite wall's area that runs into the crown as it tips. */
function resistingShares(c: CrownContext): { azimuth: number; share: number }[] {
  const { mesh, normals, areas } = c.anatomy.region;
  const p = mesh.positions;
  const pivots = pivotsOf(c);
  for (let v = 0; v < c.kinds.length; v++) {
    if (c.kinds[v] !== 'wall') continue;
    const point: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const normal: Vec3 = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
    const far = LEAST_COSINE * Math.hypot(point[0], point[1]);
    // (axis × (p − pivot)) · n is taken as axis · (p × n) − (axis × pivot) · n: every point meets nine pivots.
    const turned = cross(point, normal);
    for (const q of pivots) {
      if (point[0] * q.opposite[0] + point[1] * q.opposite[1] < far) continue;
      q.all += areas[v];
      if (dot(q.axis, turned) < dot(q.moment, normal)) q.holds += areas[v];
    }
  }
  return pivots.filter((q) => q.all > LEAST_OPPOSITE).map((q) => ({ azimuth: q.azimuth, share: q.holds / q.all }));
}

function pivotsOf(c: CrownContext): Pivot[] {
  const n = c.azimuths.length;
  const pointAt = (k: number): Vec3 | null => {
    const r = c.finishR[(k + n) % n];
    const z = c.finishZ[(k + n) % n];
    return r === null || z === null ? null : radialPoint(c.azimuths[(k + n) % n], r, z);
  };
  return Array.from({ length: 360 / PIVOT_STEP }, (_, i) => i * PIVOT_STEP).flatMap((azimuth): Pivot[] => {
    const k = Math.round((azimuth / 360) * n);
    const pivot = pointAt(k);
    const before = pointAt(k - 3);
    const after = pointAt(k + 3);
    if (!pivot || !before || !after) return [];
    const opposite = radialPoint(azimuth + 180, 1, 0);
    const along = sub(after, before);
    // The far side has to rise: the axis is turned so that it does.
    const axis: Vec3 = cross(along, opposite)[2] < 0 ? [-along[0], -along[1], -along[2]] : along;
    return [{ azimuth, axis, moment: cross(axis, pivot), opposite, all: 0, holds: 0 }];
  });
}
