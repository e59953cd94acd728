import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { lengthInside } from '../../linalg/plan.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { edgeError } from '../uncertainty/outline-error.ts';

/**
 * Grooves taken into the outline: the share of each primary groove, and how far each secondary groove was entered.
 * @formula length of the groove line inside the outline ÷ its length (primary, share); length inside (secondary, mm)
 * @units share; mm; zone = the groove's name
 * @frame tooth, seen along the axis
 * @fails no-groove, no-outline
 * @source own definition, docs/definitions.md
 * @example an outline round the whole groove reads 1
 */
export function outlineCoverage(a: CavityAnatomy): Reading[] {
  const name = 'outline.coverage';
  const { grooves } = a.master.landmarks;
  if (a.plan.length === 0) return refusal(name, null, ['share'], 'no-outline');
  if (grooves.length === 0) return refusal(name, null, ['share'], 'no-groove');
  return grooves.map((g) => {
    const { inside, whole } = lengthInside(a.plan, g.line);
    if (g.rank === 'secondary')
      return reading({
        name: 'outline.entered',
        zone: g.name,
        value: inside,
        U: expanded(a.alignment.pointError, edgeError(a, null), methodUncertainty('outline.entered', 'value')),
        samples: g.line.length,
      });
    return reading({
      name,
      zone: g.name,
      stat: 'share',
      value: whole > 0 ? inside / whole : 0,
      U: Math.min(0.2, 0.12 / (whole || 1)),
      samples: g.line.length,
    });
  });
}
