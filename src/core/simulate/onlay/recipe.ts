import { box, type CavityRecipe, CLEAN_CLASS_I } from '../cavity/recipe.ts';
import { CLEAN_CROWN, type CrownRecipe } from '../crown/recipe.ts';

/** An onlay as it was cut: one row of cusps covered like a crown, a slot with boxes through the middle. */
export interface OnlayRecipe {
  readonly kind: 'onlay';
  /** The side whose cusps are covered. */
  readonly covers: 'facial' | 'lingual';
  readonly cover: Omit<CrownRecipe, 'kind'>;
  readonly inside: Omit<CavityRecipe, 'kind'>;
  /** False while only the tops of the covered cusps are cut. */
  readonly shoulder?: boolean;
}

const { kind: _crown, ...crown } = CLEAN_CROWN;
const { kind: _cavity, ...cavity } = CLEAN_CLASS_I;
const DIVERGING = { facial: -5, mesial: -5, lingual: -5, distal: -5 };

/** A ceramic onlay over the facial cusps, open to both sides. */
export const CLEAN_ONLAY: OnlayRecipe = {
  kind: 'onlay',
  covers: 'facial',
  cover: {
    ...crown,
    occlusal: { functional: 2, nonFunctional: 1.7, elsewhere: 1.2 },
    margin: {
      ...crown.margin,
      rounding: 0.35,
      width: { facial: 1, mesial: 1, lingual: 1, distal: 1 },
      height: { facial: 2.2, mesial: 2, lingual: 2.2, distal: 2 },
    },
  },
  inside: {
    ...cavity,
    occlusal: { ...(cavity.occlusal as NonNullable<CavityRecipe['occlusal']>), isthmus: 2.2, dovetail: 0.1, depth: 2.4, walls: DIVERGING },
    boxes: (['mesial', 'distal'] as const).map((side) => box(side, { facial: -5, lingual: -5, axial: -4, width: 3.6 })),
  },
};
