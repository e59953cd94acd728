import { reductionIncisal } from '../../measure/crown/reduction-incisal.ts';
import { toc } from '../../measure/crown/toc.ts';
import { undercut } from '../../measure/crown/undercut.ts';
import { cingulumRecess } from '../../measure/partial/cingulum-recess.ts';
import { type PartialContext, partialContext } from '../../measure/partial/context.ts';
import { facialExtension } from '../../measure/partial/facial-extension.ts';
import { groove } from '../../measure/partial/groove.ts';
import { grooveIncisal } from '../../measure/partial/groove-incisal.ts';
import { groovePlace } from '../../measure/partial/groove-place.ts';
import { parallel } from '../../measure/partial/parallel.ts';
import { pin } from '../../measure/partial/pin.ts';
import { plateThickness, plateThicknesses } from '../../measure/partial/plate-thickness.ts';
import { sliceAngle } from '../../measure/partial/slice-angle.ts';
import { takeCrownApart } from '../../segment/crown/crown.ts';
import { crownCurves } from '../crown/curves.ts';
import { crownSections, crownSurfaces } from '../crown/drawing.ts';
import { COVERED_SIDE } from '../crown/measures.ts';
import { type Kind, type Measure, runMeasures } from '../kind.ts';
import { wholeEdge } from './edge.ts';

const GUIDES: readonly Measure<PartialContext>[] = [
  groove,
  groovePlace,
  grooveIncisal,
  pin,
  cingulumRecess,
  plateThickness,
  parallel,
  facialExtension,
];

/** Partial crowns: a covered side like a crown's, with grooves, boxes and pinholes that guide it. */
export const partial: Kind = {
  name: 'partial',
  title: 'Partial crown',
  steps: ['occlusal', 'axial'],
  colours: ['occlusal', 'axial'],
  hollow: false,
  measure(alignment, master, progress) {
    const p = partialContext(takeCrownApart(alignment, master, { inBox: () => false }));
    const c = p.crown;
    return {
      region: c.anatomy.region,
      readings: [
        ...runMeasures([...COVERED_SIDE, toc, undercut, reductionIncisal, sliceAngle], c, progress, [0, 0.7]),
        ...runMeasures(GUIDES, p, progress, [0.7, 1]),
      ],
      curves: { ...crownCurves(c), outline: wholeEdge(p.outline, c) },
      surfaces: () => crownSurfaces(c),
      sections: () => crownSections(c),
      plate: () => plateThicknesses(p),
    };
  },
};
