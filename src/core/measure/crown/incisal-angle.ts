import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { incisalEdges } from '../incisal-edges.ts';
import type { CrownContext } from './context.ts';

const NAME = 'incisal.angle';
/** mm inward of the preparation's mesial or distal face, seen from facial, at which a corner's loss is read. */
const INWARD = 0.5;
/** mm under the edge at which those faces are looked for. */
const UNDER = [0.8, 1.4] as const;
/** Columns that the edge's line is fitted to at the least. */
const LEAST = 4;

/**
 * Incisal angles: how much of the edge's mesial and distal corner is lost to rounding, seen from facial.
 * @formula z(line through the middle half of the prepared edge, carried on) − z(prepared edge), 0.5 mm inward of the proximal face 1 mm under the edge
 * @units mm, + lost
 * @frame tooth, seen from facial
 * @fails not-seen
 * @source own definition, docs/definitions.md
 * @example a level edge with square corners loses 0
 */
export function incisalAngle(c: CrownContext): Reading[] {
  if (!c.anterior) return [];
  const { region, alignment } = c.anatomy;
  const tops = [...incisalEdges(c).tops.values()].sort((a, b) => a.x - b.x);
  const refuse = (): Reading[] => ['mesial', 'distal'].flatMap((side) => refusal(NAME, side, ['value'], 'not-seen'));
  if (tops.length < 2 * LEAST) return refuse();
  const p = region.mesh.positions;
  const high = Math.max(...tops.map((t) => t.z));
  let [x0, x1] = [Infinity, -Infinity];
  for (let v = 0; v < region.prepared.length; v++) {
    const under = high - p[3 * v + 2];
    if (!region.prepared[v] || under < UNDER[0] || under > UNDER[1]) continue;
    x0 = Math.min(x0, p[3 * v]);
    x1 = Math.max(x1, p[3 * v]);
  }
  const quarter = (x1 - x0) / 4;
  const middle = tops.filter((t) => t.x > x0 + quarter && t.x < x1 - quarter);
  const line = middle.length >= LEAST ? leastSquares(middle.map((t) => ({ f: [1, t.x], x: t.z, w: 1 }))) : null;
  if (!line) return refuse();
  const off = middle.map((t) => t.z - line[0] - line[1] * t.x);
  const scatter = Math.sqrt(off.reduce((s, d) => s + d * d, 0) / off.length);
  return (['mesial', 'distal'] as const).flatMap((side): Reading[] => {
    const x = side === 'mesial' ? x1 - INWARD : x0 + INWARD;
    const [before, after] = [tops.filter((t) => t.x <= x).at(-1), tops.find((t) => t.x > x)];
    if (!before || !after) return refusal(NAME, side, ['value'], 'not-seen');
    const f = (x - before.x) / (after.x - before.x);
    const z = before.z + f * (after.z - before.z);
    // Where the edge falls steeply, a column's width decides.
    const steep = Math.abs(after.z - before.z) / 4;
    return [
      reading({
        name: NAME,
        zone: side,
        value: line[0] + line[1] * x - z,
        U: expanded(scatter, steep, alignment.noise, methodUncertainty(NAME, 'value')),
        at: { point: [x, before.y, z] },
        samples: tops.length,
      }),
    ];
  });
}
