import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { inSector, SECTORS, SIDES } from '../../linalg/sectors.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { median } from '../../statistics/quantile.ts';
import type { CrownContext } from '../crown/context.ts';

/** mm and degrees: what runs in from the edge is a bevel when it is this long and turns this much into what follows. */
const WIDTH = [0.15, 1.2] as const;
const TURN = 15;
/** Shares of a side's half planes that must show it. */
const LEAST_SHARE = 0.3;

/**
 * Bevel along the margin, side by side: its width, and its angle to the long axis.
 * @formula in each half plane: the first straight piece inward from the edge, 0.15–1.2 mm long, 20–75° from the axis, after which the surface flattens by 15° or more (a chamfer steepens); medians over the half planes of a sector that show one
 * @units mm along the profile; degrees
 * @frame tooth
 * @fails no-bevel
 * @source own definition, docs/definitions.md
 * @example a margin bevelled at 45° over 0.5 mm reads 45 and 0.5
 */
export function marginBevel(c: CrownContext): Reading[] {
  const { profiles, open } = c.anatomy;
  return SECTORS.filter((s) => (SIDES as readonly string[]).includes(s.name)).flatMap((sector): Reading[] => {
    const own = c.azimuths.flatMap((a, k) => (inSector(a, sector) ? [k] : []));
    const found = own.flatMap((k) => {
      const p = profiles[k] ?? open[k];
      const b = p && bevelOf(p);
      return p && b ? [{ k, p, ...b }] : [];
    });
    const there = own.filter((k) => profiles[k] ?? open[k]).length;
    if (found.length < Math.max(5, LEAST_SHARE * there))
      return [
        ...refusal('bevel.width', sector.name, ['median'], 'no-bevel'),
        ...refusal('bevel.angle', sector.name, ['median'], 'no-bevel'),
      ];
    const middle = found[found.length >> 1];
    const common = {
      zone: sector.name,
      stat: 'median' as const,
      at: {
        azimuth: c.azimuths[middle.k],
        point: radialPoint(c.azimuths[middle.k], middle.p.finish.r, middle.p.finish.z),
      },
      coverage: found.length / own.length,
      samples: found.length,
    };
    return [
      reading({
        name: 'bevel.width',
        value: median(found.map((f) => f.width)),
        U: expanded(methodUncertainty('bevel.width', 'median')),
        ...common,
      }),
      reading({
        name: 'bevel.angle',
        value: median(found.map((f) => f.angle)),
        U: expanded(methodUncertainty('bevel.angle', 'median')),
        ...common,
      }),
    ];
  });
}

function bevelOf(p: Profile): { width: number; angle: number } | null {
  const [first, second] = p.pieces;
  if (!first || !second || first.length < WIDTH[0] || first.length > WIDTH[1]) return null;
  const lean = Math.abs(90 - Math.abs(first.angle));
  if (lean < 20 || lean > 75 || first.angle - second.angle < TURN) return null;
  // The refined edge, not where the depth crosses its threshold, is where the bevel begins.
  const toEdge = Math.hypot(p.r[0] - p.finish.r, p.z[0] - p.finish.z);
  return { width: first.length + toEdge, angle: lean };
}
