import { applyDirection } from '../../linalg/rigid.ts';
import { angleBetween } from '../../linalg/vec.ts';
import { envelopeOf } from '../crown/envelope.ts';
import type { Preparation } from '../preparation.ts';
import type { Recipe } from '../recipe.ts';
import { abutmentOf, seenFrom, type Typodont } from '../typodont.ts';
import { crownPath } from './crown-truth.ts';
import type { Truth } from './truth.ts';

/** True angle between the paths of two crowns of one arch: what grooves and pinholes add to a path of a partial crown no formula gives. */
export function abutmentTruth(t: Typodont, p: Preparation, { tooth, preparation }: NonNullable<Recipe['abutment']>): Truth[] {
  if (p.kind !== 'crown' || preparation.kind !== 'crown') return [];
  const seen = seenFrom(t, abutmentOf(t, tooth));
  const own = crownPath(t, envelopeOf(t, p));
  const other = applyDirection(seen.place, crownPath(seen, envelopeOf(seen, preparation)));
  return [{ name: 'abutments.parallel', zone: null, stat: 'value', unit: 'deg', value: angleBetween(own, other) }];
}
