import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { median } from '../../statistics/quantile.ts';
import { incisalEdges } from '../incisal-edges.ts';
import type { CrownContext } from './context.ts';

/**
 * Incisal reduction: how much shorter the tooth is along its axis, column by column along the incisal edge.
 * @formula z(master's edge) − z(prepared edge) in 0.3 mm columns over the middle 80 % of the master's edge; their median, least and largest
 * @units mm
 * @frame tooth
 * @fails not-on-tooth (a posterior tooth), nothing-prepared
 * @source own definition, docs/definitions.md
 * @example a level edge lowered by 2 mm reads 2 everywhere
 */
export function reductionIncisal(c: CrownContext): Reading[] {
  const name = 'reduction.incisal';
  const stats = ['value', 'min', 'max'] as const;
  if (!c.anterior) return [];
  const { alignment } = c.anatomy;
  const { before, after } = incisalEdges(c);
  const columns = [...before].flatMap(([i, z]) => {
    const w = after.get(i);
    return w === undefined ? [] : [{ i, cut: z.z - w.z, at: [w.x, w.y, w.z] as const }];
  });
  if (columns.length < 3) return refusal(name, null, stats, 'nothing-prepared');
  const cuts = columns.map((q) => q.cut);
  const by = { value: median(cuts), min: Math.min(...cuts), max: Math.max(...cuts) };
  return stats.map((stat) => {
    const at = columns.reduce((a, b) => (Math.abs(b.cut - by[stat]) < Math.abs(a.cut - by[stat]) ? b : a)).at;
    return reading({
      name,
      stat,
      value: by[stat],
      U: expanded(alignment.pointError, 0.3 * alignment.noise, methodUncertainty(name, stat)),
      at: { point: at },
      coverage: columns.length / before.size,
      samples: columns.length,
    });
  });
}
