import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type Bevel, bevelsFound } from '../bevel-found.ts';
import type { CrownContext } from './context.ts';

/**
 * Bevel of the cusps over the wall: angle to the axis, width along the profile, and how deep it lies below the master.
 * @formula direction θ(s) along the profile, averaged over the half planes within 18° of each cusp of that role laid over one another 20° past their walls; angle = θ where it turns least between 24 and 66°; width = between the places where θ is midway to the wall's and to the occlusal surface's; depth = median under the master between them; mean over the cusps
 * @units degrees; mm; mm
 * @frame tooth
 * @fails no-bevel, no-landmark
 * @source own definition, docs/definitions.md
 * @example a plane at 45° and 1.2 mm wide over a wall reads 45 and 1.2
 */
export function bevels(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  return [...bevelOf(c, 'functional', 'bevel.functional'), ...bevelOf(c, 'non-functional', 'bevel.nonfunctional')];
}

function bevelOf(c: CrownContext, role: 'functional' | 'non-functional', name: string): Reading[] {
  const refuse = (reason: 'no-landmark' | 'no-bevel'): Reading[] => [
    ...refusal(`${name}.angle`, null, ['value'], reason),
    ...refusal(`${name}.width`, null, ['value'], reason),
    ...refusal(`${name}.depth`, null, ['value'], reason),
  ];
  const cusps = c.anatomy.master.landmarks.cusps.filter((q) => q.role === role);
  if (cusps.length === 0) return refuse('no-landmark');
  const found = bevelsFound(c, role);
  if (found.length === 0) return refuse('no-bevel');
  const samples = found.reduce((s, f) => s + f.planes, 0);
  const common = { at: found[0].at, coverage: samples / (found.length * found[0].asked), samples };
  const value = (of: (f: Bevel) => number): number => found.reduce((s, f) => s + of(f), 0) / found.length;
  // The bevels of several cusps come from one hand, so their scatter is a measure of uncertainty as well.
  const one = (stat: 'angle' | 'width' | 'depth', ...more: number[]): Reading => {
    const noise = Math.sqrt(found.reduce((s, f) => s + f.scatter[stat] ** 2, 0)) / found.length;
    return reading({
      name: `${name}.${stat}`,
      value: value((f) => f[stat]),
      U: expanded(noise, ...more, methodUncertainty(`${name}.${stat}`, 'value')),
      ...common,
    });
  };
  return [one('angle'), one('width'), one('depth', c.anatomy.alignment.pointError)];
}
