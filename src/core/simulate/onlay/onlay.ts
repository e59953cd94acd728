import { CrownEnvelope } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import type { OnlayRecipe } from './recipe.ts';

export interface OnlayParts {
  readonly envelope: CrownEnvelope;
  /** y that parts the covered cusps from the others: the central groove's middle. */
  readonly splitY: number;
  readonly sign: 1 | -1;
}

export function onlayParts(t: Typodont, r: OnlayRecipe): OnlayParts {
  const groove = t.target.grooves.find((g) => g.name === 'central');
  if (!groove) throw new RangeError(`tooth ${t.target.tooth} has no central groove: an onlay needs cusps on both sides of one`);
  const splitY = groove.line.reduce((s, p) => s + p[1], 0) / groove.line.length;
  return { envelope: new CrownEnvelope(t, { ...r.cover, kind: 'crown' }), splitY, sign: r.covers === 'facial' ? 1 : -1 };
}
