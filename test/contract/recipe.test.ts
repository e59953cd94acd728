import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { RecipeFile, toRecipe } from '#contract/recipe.ts';
import { cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, THREE_QUARTER_ANTERIOR, THREE_QUARTER_BOXES } from '#core/simulate/partial/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import { drawnCavity, drawnCrown, drawnOnlay, drawnPartial } from '../../study/recipes.ts';

const readBack = (tooth: string, preparation: Preparation): Preparation =>
  toRecipe(v.parse(RecipeFile, JSON.parse(JSON.stringify({ format: 'veritor-recipe/1', tooth, preparation })))).preparation;

describe('a recipe’s file holds all that the simulator can cut', () => {
  it.each<[string, string, Preparation]>([
    ['an incisal cut and its fall', '11', drawnCrown('11', 3).preparation],
    ['bevels of a crown', '16', drawnCrown('16', 1).preparation],
    ['depth cuts alone', '46', { ...CLEAN_CROWN, top: { along: 'grooves', radius: 0.6 } }],
    ['a shell at a contact', '46', { ...CLEAN_CROWN, shell: { side: 'distal', thickness: 0.3 } }],
    ['a bevelled gingival margin', '46', cleanClassII('mesial', { bevel: { along: 0.5, angle: 40 } })],
    ['a bevelled facial margin', '46', cleanClassII('distal', { facialBevel: { along: 0.5, angle: 35 } })],
    ['waves on the walls', '46', { ...cleanClassII('mesial'), chatter: { height: 0.04, length: 0.5 } }],
    ['a contact left standing', '46', { ...cleanClassII('mesial'), shell: 0.3 }],
    ['tops of cusps alone', '46', { ...CLEAN_ONLAY, shoulder: false }],
    ['boxes instead of grooves', '26', THREE_QUARTER_BOXES],
    ['an incisal groove', '13', { ...THREE_QUARTER_ANTERIOR, incisal: { width: 1, depth: 0.4, lingual: 0.8 } }],
    ['a clean three-quarter crown', '26', CLEAN_PARTIAL],
  ])('%s', (_, tooth, preparation) => expect(readBack(tooth, preparation)).toMatchObject(preparation));

  it.each([0, 1, 2, 3])('whatever a study draws (%i)', (seed) => {
    for (const [tooth, { preparation }] of [
      ['16', drawnCrown('16', seed)],
      ['22', drawnCrown('22', seed)],
      ['46', drawnCavity('46', seed)],
      ['26', drawnOnlay('26', seed)],
      ['16', drawnPartial('16', seed)],
      ['13', drawnPartial('13', seed)],
    ] as const)
      expect(readBack(tooth, preparation)).toMatchObject(preparation);
  });
});
