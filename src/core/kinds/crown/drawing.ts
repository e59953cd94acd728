import type { CrownContext } from '../../measure/crown/context.ts';
import { marginHeights } from '../../measure/crown/context.ts';
import { marginWidths } from '../../measure/crown/margin-width.ts';
import { AZIMUTHS } from '../../segment/crown/crown.ts';
import { cutRadially, longestChain } from '../../segment/cut.ts';
import type { Section, Surfaces } from '../kind.ts';

const PART_NAMES = ['', 'margin floor', 'axial wall', 'inner wall', 'occlusal surface'];
const PART = { none: 0, floor: 1, wall: 2, inner: 3, occlusal: 4 } as const;

export const crownSurfaces = (c: CrownContext): Surfaces => ({
  kinds: c.kinds,
  depths: c.anatomy.region.depth,
  parts: c.kinds.map((k) => PART[k]),
  partNames: PART_NAMES,
});

/** mm between the points of a drawn section. */
const DRAWN_STEP = 0.08;

export function crownSections(c: CrownContext): Section[] {
  const widths = marginWidths(c);
  const heights = marginHeights(c);
  // Where no profile could be read the plain cut is still there to be seen.
  const plain = cutRadially(c.anatomy.region.mesh, c.anatomy.region.depth, AZIMUTHS);
  return c.azimuths.map((_, k): Section => {
    const p = c.anatomy.profiles[k] ?? c.anatomy.open[k];
    if (!p)
      return { scan: longestChain(plain[k], DRAWN_STEP), finish: null, foot: null, wall: null, width: null, taper: null, height: null };
    const w = p.wall;
    const last = p.r.length - 1;
    const outside = p.outside.r.map((r, i): [number, number] => [r, p.outside.z[i]]).reverse();
    const inside = p.r.map((r, i): [number, number] => [r, p.z[i]]);
    return {
      scan: [...outside, ...inside.slice(1)].filter((_, i) => i % 2 === 0),
      finish: [p.finish.r, p.finish.z],
      foot: w ? [w.foot.r, w.foot.z] : null,
      wall: w ? [p.r[w.from], p.z[w.from], p.r[Math.min(w.to, last)], p.z[Math.min(w.to, last)]] : null,
      width: widths[k],
      taper: c.taper[k],
      height: heights[k],
    };
  });
}
