import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { EdgePoint } from '../../segment/crown/incisal-edge.ts';
import { incisalEdges } from '../incisal-edges.ts';
import type { CrownContext } from './context.ts';

const NAME = 'form.cusp.canine';
/** Columns along the edge at the least. */
const LEAST = 6;
/** mm under the tip down to which the edge runs, and share of it that is left out at each end. */
const DOWN_TO = 1.5;
const LEFT_OUT = 0.1;

/**
 * A canine's one cusp: how high the prepared tip stands over its two slopes. Its lingual ridge is form.lingual.ridge.
 * @formula z(highest column of the prepared edge) − z(line between the edge's ends at that place), over the middle 80 % of the edge
 * @units mm
 * @frame tooth, seen from facial
 * @fails not-seen
 * @source own definition, docs/definitions.md
 * @example an edge cut straight across has no cusp and reads 0
 */
export function formCuspCanine(c: CrownContext): Reading[] {
  if (c.anatomy.master.description.tooth[1] !== '3') return [];
  const { alignment } = c.anatomy;
  const tops = [...incisalEdges(c).tops.values()].sort((a, b) => a.x - b.x);
  const tip = tops.reduce((a, b) => (b.z > a.z ? b : a), tops[0]);
  const [from, to] = tip ? [endOf(tops, tip, -1), endOf(tops, tip, 1)] : [0, 0];
  const ends = [from + LEFT_OUT * (to - from), to - LEFT_OUT * (to - from)];
  const columns = tops.filter((q) => q.x >= ends[0] && q.x <= ends[1]);
  if (columns.length < LEAST) return refusal(NAME, null, ['value'], 'not-seen');
  const [first, last] = ends.map((x) => ({ x, z: edgeHeight(tops, x) }));
  const between = first.z + ((last.z - first.z) * (tip.x - first.x)) / (last.x - first.x);
  // Where the edge ends is known to a part of a column: what the slopes fall over a third of one.
  const column = columns[1].x - columns[0].x;
  const steep = Math.max(...[first, last].map((q) => Math.abs(tip.z - q.z) / Math.max(column, Math.abs(tip.x - q.x))));
  return [
    reading({
      name: NAME,
      value: tip.z - between,
      U: expanded(alignment.noise, (column / 3) * steep, methodUncertainty(NAME, 'value')),
      at: { point: [tip.x, tip.y, tip.z] },
      samples: columns.length,
    }),
  ];
}

/** Where the edge ends to one side of its tip: between two columns, at the level down to which it runs. */
function endOf(tops: readonly EdgePoint[], tip: EdgePoint, way: 1 | -1): number {
  const low = tip.z - DOWN_TO;
  let i = tops.indexOf(tip);
  while (tops[i + way] && tops[i + way].z > low) i += way;
  const [a, b] = [tops[i], tops[i + way]];
  return b ? a.x + ((a.z - low) / (a.z - b.z)) * (b.x - a.x) : a.x;
}

/** Height of the edge at x, in a line between two columns. */
function edgeHeight(tops: readonly EdgePoint[], x: number): number {
  const i = Math.max(
    1,
    tops.findIndex((q) => q.x >= x),
  );
  const [a, b] = [tops[i - 1], tops[i]];
  return a.z + ((x - a.x) / (b.x - a.x)) * (b.z - a.z);
}
