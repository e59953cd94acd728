import { boxParallel } from '../../measure/box/box-parallel.ts';
import { type CavityAnatomy, takeCavityApart } from '../../segment/cavity/cavity.ts';
import { type Kind, runMeasures } from '../kind.ts';
import { cavityCurves } from './curves.ts';
import { cavitySections, cavitySurfaces } from './drawing.ts';
import { INSIDE, OUTLINE } from './measures.ts';

/** A cavity is filled along its long axis. */
const alongAxis = (a: CavityAnatomy) => boxParallel(a);

/** Class I, Class II and MOD cavities, and inlays. */
export const cavity: Kind = {
  name: 'cavity',
  title: 'Cavity or inlay',
  steps: ['outline', 'box'],
  colours: ['occlusal'],
  hollow: true,
  measure(alignment, master, progress) {
    const a = takeCavityApart(alignment, master);
    return {
      region: a.region,
      readings: runMeasures([...OUTLINE, ...INSIDE, alongAxis], a, progress),
      curves: cavityCurves(a),
      surfaces: () => cavitySurfaces(a),
      sections: () => cavitySections(a),
    };
  },
};
