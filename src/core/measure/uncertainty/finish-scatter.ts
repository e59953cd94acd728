import type { Around } from '../../segment/around.ts';
import type { CrownContext } from '../crown/context.ts';
import { marginLips } from '../crown/margin-lip.ts';

/** Share of a lip's height by which the finish line may be misread along it: its thin crest is blunted in any scan. */
const LIP_SHARE = 0.7;

const known = new WeakMap<CrownContext, Around>();

/**
 * Uncertainty (mm) of the finish line at each azimuth: distance of each half plane's edge from the smoothed one, and height
 * of a lip there.
 */
export function finishScatter(c: CrownContext): Around {
  let off = known.get(c);
  if (!off) {
    const lips = marginLips(c);
    off = c.anatomy.profiles.map((p, k) => {
      const z = c.finishZ[k];
      return p && z !== null ? Math.hypot(p.finish.z - z, LIP_SHARE * (lips[k] ?? 0)) : null;
    });
    known.set(c, off);
  }
  return off;
}
