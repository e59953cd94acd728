import { applyDirection, applyPoint } from '../../linalg/rigid.ts';
import { unit } from '../../linalg/vec.ts';
import type { CrownContext } from '../../measure/crown/context.ts';
import { marginHeights } from '../../measure/crown/context.ts';
import { hiddenMargin } from '../../measure/crown/margin-even.ts';
import { marginExits } from '../../measure/crown/margin-exit.ts';
import { marginLips } from '../../measure/crown/margin-lip.ts';
import { marginWidths } from '../../measure/crown/margin-width.ts';
import { wallHeights } from '../../measure/crown/wall-height.ts';
import { type Curves, EDGE_LENGTH, HIDDEN_MARGIN } from '../../result/curves.ts';
import { radialPoint } from '../../segment/crown/crown.ts';

/** What is drawn round a crown: `finishLine` in the master file's frame, the rest as pairs [azimuth, value]. */
export function crownCurves(c: CrownContext): Curves {
  // Beside the covered side of a partial cover a value is only carried over.
  const by = (values: readonly (number | null)[]): number[][] =>
    values.flatMap((v, k) => (v === null || !c.anatomy.covered[k] ? [] : [[c.azimuths[k], v]]));
  const { fromTooth } = c.anatomy.master;
  return {
    finishLine: c.azimuths.flatMap((a, k) => {
      const r = c.finishR[k];
      const z = c.finishZ[k];
      return r === null || z === null ? [] : [[...applyPoint(fromTooth, radialPoint(a, r, z))]];
    }),
    [EDGE_LENGTH]: edgeLengths(c),
    [HIDDEN_MARGIN]: hiddenMargin(c).map((k) => [c.azimuths[k]]),
    'margin.width': by(marginWidths(c)),
    'margin.gingiva': by(marginHeights(c)),
    'margin.exit': by(marginExits(c)),
    'margin.lip': by(marginLips(c)),
    'taper.wall': by(c.taper),
    'wall.lean': by(c.lean),
    'wall.height': by(wallHeights(c)),
    ...(c.draw ? { 'draw.direction': [[...unit(applyDirection(fromTooth, c.draw.direction))]] } : {}),
  };
}

/** mm of finish line that each covered azimuth stands for; where the line was not found, the mean of those that were. */
function edgeLengths(c: CrownContext): number[][] {
  const n = c.azimuths.length;
  const point = (k: number) => {
    const i = (k + n) % n;
    const r = c.finishR[i];
    const z = c.finishZ[i];
    return r === null || z === null ? null : radialPoint(c.azimuths[i], r, z);
  };
  const lengths = c.azimuths.map((_, k) => {
    const [a, b] = [point(k - 1), point(k + 1)];
    return a && b ? Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]) / 2 : null;
  });
  const found = lengths.filter((l) => l !== null);
  const usual = found.length ? found.reduce((s, l) => s + l, 0) / found.length : 0;
  return c.azimuths.flatMap((a, k) => (c.anatomy.covered[k] && usual > 0 ? [[a, lengths[k] ?? usual]] : []));
}
