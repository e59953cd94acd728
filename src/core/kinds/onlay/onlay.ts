import { boxParallel } from '../../measure/box/box-parallel.ts';
import { wallNormals } from '../../measure/cavity/wall-angle.ts';
import { crownContext } from '../../measure/crown/context.ts';
import { takeOnlayApart } from '../../segment/partial/onlay.ts';
import { cavityCurves } from '../cavity/curves.ts';
import { cavitySurfaces } from '../cavity/drawing.ts';
import { INSIDE } from '../cavity/measures.ts';
import { crownCurves } from '../crown/curves.ts';
import { crownSections, crownSurfaces } from '../crown/drawing.ts';
import { COVERED_SIDE } from '../crown/measures.ts';
import { type Kind, runMeasures, type Surfaces } from '../kind.ts';
import { wholeEdge } from '../partial/edge.ts';

/** Onlays: the covered part is measured as a crown, the internal part as a cavity. */
export const onlay: Kind = {
  name: 'onlay',
  title: 'Onlay',
  steps: ['occlusal', 'axial', 'outline', 'box'],
  colours: ['occlusal', 'axial'],
  hollow: true,
  measure(alignment, master, progress) {
    const { crown, cavity, edge } = takeOnlayApart(alignment, master);
    const c = crownContext(crown, wallNormals(cavity));
    const alongPath = (a: typeof cavity) => boxParallel(a, c.draw?.direction);
    // What is unrolled along an outline, and widths across one, say nothing where half of it is a finish line.
    const plan = Object.entries(cavityCurves(cavity)).filter(
      ([k]) => k.startsWith('plan.') && k !== 'plan.isthmus' && k !== 'plan.condenser',
    );
    return {
      region: c.anatomy.region,
      readings: [...runMeasures(COVERED_SIDE, c, progress, [0, 0.6]), ...runMeasures([...INSIDE, alongPath], cavity, progress, [0.6, 1])],
      curves: { ...Object.fromEntries(plan), ...crownCurves(c), outline: wholeEdge(edge, c) },
      surfaces: () => insideOver(cavitySurfaces(cavity), crownSurfaces(c)),
      sections: () => crownSections(c),
    };
  },
};

/** Where no wall or floor of the inside is named, the covered side shows its own surfaces. */
function insideOver(inside: Surfaces, cover: Surfaces): Surfaces {
  const shift = inside.partNames.length - 1;
  const isInside = (i: number): boolean => inside.parts[i] > 0;
  return {
    kinds: cover.kinds.map((k, i) => (isInside(i) ? inside.kinds[i] : k)),
    depths: Array.from(cover.depths, (d, i) => (isInside(i) ? inside.depths[i] : d)),
    parts: Array.from(cover.parts, (part, i) => (isInside(i) ? inside.parts[i] : part > 0 ? part + shift : 0)),
    partNames: [...inside.partNames, ...cover.partNames.slice(1)],
  };
}
