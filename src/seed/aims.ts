import { box, type CavityRecipe, CLEAN_CLASS_I } from '#core/simulate/cavity/recipe.ts';
import { ANTERIOR_CERAMIC, CLEAN_CROWN, METAL_CERAMIC_FACIAL, ZIRCONIA_POSTERIOR } from '#core/simulate/crown/recipe.ts';
import type { Task } from '#core/simulate/hand.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, THREE_QUARTER_ANTERIOR } from '#core/simulate/partial/recipe.ts';

const DIVERGING = { facial: -4, mesial: -4, lingual: -4, distal: -4 };

/** The occlusal part of a cavity as CLEAN_CLASS_I, changed. */
const occlusal = (change: Partial<NonNullable<CavityRecipe['occlusal']>>): CavityRecipe['occlusal'] => ({
  ...(CLEAN_CLASS_I.occlusal as NonNullable<CavityRecipe['occlusal']>),
  ...change,
});

export interface Aim {
  readonly tooth: string;
  readonly task: Task;
}

/** A clean preparation for each rubric: what its demo exercise aims at, and what must reach every one of its criteria. */
export const AIMS = {
  'zirconia-posterior-practice': { tooth: '16', task: { kind: 'crown', aim: ZIRCONIA_POSTERIOR } },
  'metal-crown-examination': {
    tooth: '15',
    task: {
      kind: 'crown',
      aim: {
        ...CLEAN_CROWN,
        occlusal: { functional: 1.75, nonFunctional: 1.85, elsewhere: 1.1 },
        taper: { facial: 4, mesial: 4, lingual: 4, distal: 4 },
        margin: {
          ...CLEAN_CROWN.margin,
          width: { facial: 0.5, mesial: 0.5, lingual: 0.5, distal: 0.5 },
          height: { facial: 0.4, mesial: 0.4, lingual: 0.4, distal: 0.4 },
        },
      },
    },
  },
  'metal-ceramic-facial-practice': {
    tooth: '25',
    task: {
      kind: 'crown',
      aim: {
        ...METAL_CERAMIC_FACIAL,
        margin: { ...METAL_CERAMIC_FACIAL.margin, width: { facial: 1.23, mesial: 0.8, lingual: 0.55, distal: 0.8 } },
        taper: { facial: 3, mesial: 4, lingual: 5, distal: 4 },
        planes: [{ azimuth: 0, halfWidth: 45, angle: 20, depth: 1.2 }],
      },
    },
  },
  'anterior-ceramic-practice': {
    tooth: '22',
    task: {
      kind: 'crown',
      aim: {
        ...ANTERIOR_CERAMIC,
        occlusal: { functional: 0.6, nonFunctional: 0.6, elsewhere: 0.6 },
        planes: [{ azimuth: 0, halfWidth: 45, angle: 20, depth: 1.15 }],
      },
    },
  },
  'class1-amalgam-practice': {
    tooth: '37',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({
          depth: 1.3,
          isthmus: 1.5,
          mesial: 0.56,
          distal: 0.56,
          walls: { facial: 4, mesial: -4, lingual: 4, distal: -5.5 },
        }),
      },
    },
  },
  'class2-amalgam-minimal': {
    tooth: '34',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({ isthmus: 1.3, distal: 0.4, depth: 2 }),
        boxes: [box('distal', { width: 3.5, axialDepth: 1.25, overGingiva: 2.15, toFacial: 0.8 })],
      },
    },
  },
  'class2-amalgam-access': {
    tooth: '46',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({ depth: 1.5, isthmus: 1.6 }),
        boxes: [box('mesial', { width: 4.65, overGingiva: 1.1, toFacial: 0.45 })],
      },
    },
  },
  'class2-composite-slot': {
    tooth: '46',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: null,
        boxes: [box('distal', { width: 5.9, axialDepth: 1.1, overGingiva: 1.2, toFacial: 0.3 })],
      },
    },
  },
  'mod-inlay-practice': {
    tooth: '46',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({ depth: 1.6, isthmus: 1.9, walls: DIVERGING }),
        boxes: (['mesial', 'distal'] as const).map((side) => box(side, { facial: -4, lingual: -4, axial: -3 })),
      },
    },
  },
  'onlay-ceramic-practice': {
    tooth: '46',
    task: {
      kind: 'onlay',
      aim: {
        ...CLEAN_ONLAY,
        cover: { ...CLEAN_ONLAY.cover, occlusal: { functional: 2.45, nonFunctional: 2.2, elsewhere: 1.6 } },
        inside: {
          ...CLEAN_ONLAY.inside,
          occlusal: occlusal({ isthmus: 2.2, dovetail: 0.1, depth: 2.62, walls: DIVERGING }),
          boxes: (['mesial', 'distal'] as const).map((side) => box(side, { width: 3.6, facial: -4, lingual: -4, axial: -4 })),
        },
      },
    },
  },
  'three-quarter-posterior-practice': { tooth: '26', task: { kind: 'partial', aim: CLEAN_PARTIAL } },
  'three-quarter-anterior-practice': {
    tooth: '13',
    task: {
      kind: 'partial',
      aim: {
        ...THREE_QUARTER_ANTERIOR,
        crown: { ...THREE_QUARTER_ANTERIOR.crown, occlusal: { functional: 0.08, nonFunctional: 0.08, elsewhere: 0.5 } },
      },
    },
  },
} as const satisfies Record<string, Aim>;
