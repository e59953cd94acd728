import type { Master } from '../master/master.ts';
import { closestPoint, newClosest, type Surface, signOf } from '../spatial/surface.ts';
import type { GuidePlane } from './guide.ts';

/** mm: how thick a guide's wall is, how far it stands off the teeth, and how far over the gingiva it ends. */
export const GUIDE = { thickness: 2.5, gap: 0.08, overGingiva: 0.8, reach: 12 } as const;

/**
 * Whether a place belongs to a guide's body, and by how much: a shell over the unprepared tooth and its neighbours, cut open along the plane
 * so that the gap is seen there. Positive inside the body.
 * @formula min(d − gap, thickness − d, height over its lower edge, distance behind the plane, reach − distance from the tooth)
 * @units mm
 * @source docs/plan.md
 * @example 1 mm over an unprepared cusp, behind the plane: 0.92
 */
export function guideBody(m: Master, plane: GuidePlane): (p: readonly [number, number, number]) => number {
  const teeth = [m.target, m.mesial, m.distal].filter((s): s is Surface<'tooth'> => s !== null);
  const hit = newClosest();
  const across = [plane.along[1], -plane.along[0]];
  return ([x, y, z]) => {
    let d = Infinity;
    for (const s of teeth)
      if (closestPoint(s, x, y, z, hit, GUIDE.thickness + 1)) d = Math.min(d, signOf(s, hit, x, y, z) * Math.sqrt(hit.distanceSquared));
    if (d === Infinity) return -1;
    const behind = (x - plane.at[0]) * across[0] + (y - plane.at[1]) * across[1];
    return Math.min(d - GUIDE.gap, GUIDE.thickness - d, z - GUIDE.overGingiva, behind, GUIDE.reach - Math.hypot(x, y));
  };
}
