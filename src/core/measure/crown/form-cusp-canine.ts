import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { incisalEdges } from '../incisal-edges.ts';
import type { CrownContext } from './context.ts';

const NAME = 'form.cusp.canine';
/** Columns along the edge at the least. */
const LEAST = 6;

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
  const edge = [...incisalEdges(c).after.values()].sort((a, b) => a.x - b.x);
  if (edge.length < LEAST) return refusal(NAME, null, ['value'], 'not-seen');
  const tip = edge.reduce((a, b) => (b.z > a.z ? b : a));
  const [first, last] = [edge[0], edge[edge.length - 1]];
  const between = first.z + ((last.z - first.z) * (tip.x - first.x)) / (last.x - first.x);
  // Where the edge ends is known to a column's width: what the slopes fall over one.
  const fall = Math.max(Math.abs(edge[1].z - first.z), Math.abs(edge[edge.length - 2].z - last.z)) / 2;
  return [
    reading({
      name: NAME,
      value: tip.z - between,
      U: expanded(alignment.noise, fall, methodUncertainty(NAME, 'value')),
      at: { point: [tip.x, tip.y, tip.z] },
      samples: edge.length,
    }),
  ];
}
