import { applyPoint } from '../../linalg/rigid.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import type { CrownContext } from '../../measure/crown/context.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';
import { radialPoint } from '../../segment/crown/crown.ts';

/** mm between an outline's place and the finish line within which they are the same edge. */
const SAME_EDGE = 0.4;

/** The whole edge of a preparation that covers only a part: along its covered side the finish line's own points. Master file's frame. */
export function wholeEdge(outline: readonly OutlinePoint[], c: CrownContext): number[][] {
  const n = c.azimuths.length;
  return outline.map((o) => {
    const azimuth = azimuthOf(o.p[0], o.p[1]);
    const k = Math.round((azimuth / 360) * n) % n;
    const [r, z] = [c.finishR[k], c.finishZ[k]];
    const isSame = r !== null && z !== null && c.anatomy.covered[k] && Math.hypot(Math.hypot(o.p[0], o.p[1]) - r, o.p[2] - z) < SAME_EDGE;
    return [...applyPoint(c.anatomy.master.fromTooth, isSame ? radialPoint(azimuth, r, z) : o.p)];
  });
}
