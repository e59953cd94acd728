import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { inSector, SECTORS, SIDES } from '../../linalg/sectors.ts';
import { DEG } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { cornerOver, leanOf, rimOf } from '../../segment/crown/rim.ts';
import { LineSums } from '../../segment/polyline.ts';
import { median } from '../../statistics/quantile.ts';
import type { CrownContext } from '../crown/context.ts';

/** Share of the distance between a scan's points by which either end of a bevel may be off, as a standard uncertainty. */
const END = 0.3;
/** How many times wider than an end is off a bevel must be for its line to turn by as many radians: all of its points hold it. */
const TURNS = 3;
/** Half planes of 2° that share their noise. */
const SHARED = 4;
/** Shares of a side's half planes that must show it. */
const LEAST_SHARE = 0.3;

/**
 * Bevel along the margin, side by side: its width, and its angle to the long axis.
 * @formula in each half plane: the first straight piece inward from the edge, 0.15–1.2 mm long, 20–75° from the axis, after which the surface flattens by 15° or more (a chamfer steepens); width = from the refined edge along that piece to its corner with the next one; medians over the half planes of a sector that show one
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
    const width = median(found.map((f) => f.width));
    const angle = median(found.map((f) => f.angle));
    const ends = END * c.anatomy.region.spacing;
    // Neighbouring half planes share their noise.
    const alone = Math.sqrt(found.length / SHARED);
    const scatter = (values: readonly number[], about: number): number => (1.48 * median(values.map((v) => Math.abs(v - about)))) / alone;
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
        value: width,
        U: expanded(
          ends,
          scatter(
            found.map((f) => f.width),
            width,
          ),
          methodUncertainty('bevel.width', 'median'),
        ),
        ...common,
      }),
      reading({
        name: 'bevel.angle',
        value: angle,
        U: expanded(
          Math.atan(ends / (TURNS * width)) / DEG,
          scatter(
            found.map((f) => f.angle),
            angle,
          ),
          methodUncertainty('bevel.angle', 'median'),
        ),
        ...common,
      }),
    ];
  });
}

function bevelOf(p: Profile): { width: number; angle: number } | null {
  const rim = rimOf(p);
  if (!rim) return null;
  // From the refined edge, not from where the depth crosses its threshold, to the corner with what follows.
  const sums = new LineSums(p.r, p.z);
  const own = sums.line(rim.from, rim.to);
  const corner = cornerOver(p, rim.to, sums);
  return { width: Math.abs((corner.r - p.finish.r) * own.dx + (corner.z - p.finish.z) * own.dy), angle: leanOf(rim) };
}
