import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { wrapDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { median } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** degrees round a cusp's azimuth in which its bevel is looked for. */
const ARC = 18;
/** A bevel stands between wall and floor: within these angles of the axis. */
const BETWEEN = [24, 66] as const;
const LEAST_MM = 0.35;

/**
 * Bevel of the cusps over the wall: angle to the axis, width along the profile, and how deep it lies below the master.
 * @formula in the half planes within 18° of each cusp of that role: the longest straight piece past the wall that leans 24–66° from the axis; medians over them
 * @units degrees; mm; mm
 * @frame tooth
 * @fails no-bevel, no-landmark
 * @source own definition, docs/definitions.md
 * @example a plane at 45° and 1.2 mm wide over a wall reads 45 and 1.2
 */
export function bevels(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  return [...bevelOf(c, 'functional', 'bevel.functional'), ...bevelOf(c, 'non-functional', 'bevel.nonfunctional')];
}

function bevelOf(c: CrownContext, role: 'functional' | 'non-functional', name: string): Reading[] {
  const refuse = (reason: 'no-landmark' | 'no-bevel'): Reading[] => [
    ...refusal(`${name}.angle`, null, ['value'], reason),
    ...refusal(`${name}.width`, null, ['value'], reason),
    ...refusal(`${name}.depth`, null, ['value'], reason),
  ];
  const cusps = c.anatomy.master.landmarks.cusps.filter((q) => q.role === role);
  if (cusps.length === 0) return refuse('no-landmark');
  const near = c.azimuths.flatMap((a, k) => (cusps.some((q) => Math.abs(wrapDegrees(a - azimuthOf(q.at[0], q.at[1]))) <= ARC) ? [k] : []));
  const found = near.flatMap((k) => {
    const p = c.anatomy.profiles[k];
    if (!p?.wall) return [];
    const { to } = p.wall;
    const pieces = p.pieces.filter((q) => {
      const lean = Math.abs(90 - q.angle);
      return q.from >= to - 3 && lean >= BETWEEN[0] && lean <= BETWEEN[1] && q.length >= LEAST_MM && q.angle > 0;
    });
    const q = pieces.reduce<(typeof pieces)[number] | null>((a, b) => (!a || b.length > a.length ? b : a), null);
    if (!q) return [];
    const middle = (q.from + q.to) >> 1;
    return [{ k, angle: 90 - q.angle, width: q.length, depth: median(p.depth.slice(q.from, q.to)), r: p.r[middle], z: p.z[middle] }];
  });
  if (found.length < Math.max(3, near.length / 3)) return refuse('no-bevel');
  const f = found[found.length >> 1];
  const common = {
    at: { azimuth: c.azimuths[f.k], point: radialPoint(c.azimuths[f.k], f.r, f.z) },
    coverage: found.length / near.length,
    samples: found.length,
  };
  return [
    reading({
      name: `${name}.angle`,
      value: median(found.map((q) => q.angle)),
      U: expanded(methodUncertainty(`${name}.angle`, 'value')),
      ...common,
    }),
    reading({
      name: `${name}.width`,
      value: median(found.map((q) => q.width)),
      U: expanded(methodUncertainty(`${name}.width`, 'value')),
      ...common,
    }),
    reading({
      name: `${name}.depth`,
      value: median(found.map((q) => q.depth)),
      U: expanded(c.anatomy.alignment.pointError, methodUncertainty(`${name}.depth`, 'value')),
      ...common,
    }),
  ];
}
