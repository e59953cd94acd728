import { crownContext } from '../../measure/crown/context.ts';
import { takeCrownApart } from '../../segment/crown/crown.ts';
import { type Kind, runMeasures } from '../kind.ts';
import { crownCurves } from './curves.ts';
import { crownSections, crownSurfaces } from './drawing.ts';
import { FULL_CROWN } from './measures.ts';

/** Full-coverage crowns, posterior and anterior. */
export const crown: Kind = {
  name: 'crown',
  title: 'Full crown',
  steps: ['occlusal', 'axial'],
  colours: ['occlusal', 'axial'],
  hollow: false,
  measure(alignment, master, progress) {
    const c = crownContext(takeCrownApart(alignment, master));
    return {
      region: c.anatomy.region,
      readings: runMeasures(FULL_CROWN, c, progress),
      curves: crownCurves(c),
      surfaces: () => crownSurfaces(c),
      sections: () => crownSections(c),
    };
  },
};
