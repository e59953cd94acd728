import type { Solid } from '../../anatomy/tessellate.ts';
import { PART } from '../../master/master.ts';
import { between } from '../rings.ts';
import { contactPoint, type Typodont } from '../typodont.ts';
import type { CrownRecipe } from './recipe.ts';

/** mm to facial and lingual of the contact over which a shell stands, and how far over it. */
const HALF = 1.3;
const OVER = 0.8;

/** The space in which tooth is left standing at a contact that was not broken. */
export function shellSolid(t: Typodont, { side, thickness }: NonNullable<CrownRecipe['shell']>): Solid {
  const c = contactPoint(t, PART[side]);
  if (!c) throw new RangeError(`tooth ${t.target.tooth} has no ${side} neighbour for a contact to be left with`);
  const s = side === 'mesial' ? 1 : -1;
  const inner = c[0] - s * thickness;
  const outer = c[0] + s * 2;
  return between([-9, c[2] + OVER], (z) => [
    [inner, c[1] - HALF, z],
    [outer, c[1] - HALF, z],
    [outer, c[1] + HALF, z],
    [inner, c[1] + HALF, z],
  ]);
}

/** Whether a reading of this zone is what it would be without a shell on that side. */
export const clearOf = (side: 'mesial' | 'distal', zone: string | null): boolean =>
  zone !== null && !zone.includes(side) && !zone.startsWith(side === 'mesial' ? 'mesio' : 'disto');
