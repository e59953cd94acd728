import { box, type CavityRecipe, CLEAN_CLASS_I } from '#core/simulate/cavity/recipe.ts';
import { ANTERIOR_CERAMIC, CLEAN_CROWN, type CrownRecipe, METAL_CERAMIC_FACIAL, ZIRCONIA_POSTERIOR } from '#core/simulate/crown/recipe.ts';
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

/** Walls and margin of a posterior crown alike on all sides. */
const crownAim = (change: {
  functional: number;
  nonFunctional: number;
  elsewhere?: number;
  taper?: number | CrownRecipe['taper'];
  width: number | CrownRecipe['margin']['width'];
  height?: number;
  rounding?: number;
  planes?: CrownRecipe['planes'];
  edgeRadius?: number;
}): CrownRecipe => {
  const all = (v: number) => ({ facial: v, mesial: v, lingual: v, distal: v });
  return {
    ...CLEAN_CROWN,
    occlusal: {
      functional: change.functional,
      nonFunctional: change.nonFunctional,
      elsewhere: change.elsewhere ?? change.nonFunctional,
    },
    taper: typeof change.taper === 'object' ? change.taper : all(change.taper ?? 4),
    margin: {
      ...CLEAN_CROWN.margin,
      rounding: change.rounding ?? 1,
      width: typeof change.width === 'number' ? all(change.width) : change.width,
      height: all(change.height ?? 0.5),
    },
    planes: change.planes ?? [],
    edgeRadius: change.edgeRadius ?? 0.4,
  };
};

/** A Class I whose floor reaches so far to both ends, as a share of half the tooth. */
const classI = (reach: number, walls: NonNullable<CavityRecipe['occlusal']>['walls']): CavityRecipe => ({
  ...CLEAN_CLASS_I,
  occlusal: occlusal({ depth: 1.3, isthmus: 1.5, mesial: reach, distal: reach, walls }),
});

const METAL_EXAMINATION = {
  tooth: '46',
  task: {
    kind: 'crown',
    aim: crownAim({
      functional: 1.65,
      nonFunctional: 1.7,
      width: 0.5,
      // Nearly parallel to the opposing inclines.
      planes: [{ azimuth: 0, halfWidth: 60, angle: 57, depth: 2 }],
    }),
  },
} as const;

/** A clean preparation for each rubric: what its demo exercise aims at, and what must reach every one of its criteria. */
export const AIMS = {
  'zirconia-posterior-practice': { tooth: '16', task: { kind: 'crown', aim: ZIRCONIA_POSTERIOR } },
  'metal-crown-examination': METAL_EXAMINATION,
  'metal-crown-practice': METAL_EXAMINATION,
  'metal-conservative-practice': {
    tooth: '36',
    task: { kind: 'crown', aim: crownAim({ functional: 1.75, nonFunctional: 1.15, width: 0.4 }) },
  },
  'metal-mid-practice': { tooth: '47', task: { kind: 'crown', aim: crownAim({ functional: 1.3, nonFunctional: 1.2, width: 0.7 }) } },
  'metal-margin-first-practice': {
    tooth: '37',
    task: {
      kind: 'crown',
      aim: crownAim({
        functional: 1.7,
        nonFunctional: 1.6,
        elsewhere: 1.4,
        taper: { facial: 3.8, mesial: 3.1, lingual: 3.8, distal: 3.1 },
        width: 0.55,
        height: 0.7,
      }),
    },
  },
  'lithium-disilicate-practice': {
    tooth: '36',
    task: {
      kind: 'crown',
      aim: crownAim({ functional: 2.15, nonFunctional: 2.15, taper: 4, width: 1.05, rounding: 0.4, edgeRadius: 0.5 }),
    },
  },
  'layered-ceramic-practice': {
    tooth: '26',
    task: {
      kind: 'crown',
      aim: crownAim({ functional: 2.15, nonFunctional: 2.15, taper: 4.4, width: 1.2, rounding: 0.4, edgeRadius: 0.5 }),
    },
  },
  'metal-ceramic-full-practice': {
    tooth: '14',
    task: {
      kind: 'crown',
      aim: crownAim({ functional: 2.15, nonFunctional: 2.15, elsewhere: 1.75, taper: 3.5, width: 1.05, rounding: 0.4, height: 0.7 }),
    },
  },
  'metal-ceramic-deep-practice': {
    tooth: '15',
    task: {
      kind: 'crown',
      aim: crownAim({
        functional: 2.12,
        nonFunctional: 2.12,
        width: { facial: 1.65, mesial: 0.8, lingual: 0.36, distal: 0.8 },
        rounding: 0.4,
        planes: [{ azimuth: 0, halfWidth: 45, angle: 20, depth: 1.5 }],
      }),
    },
  },
  'anterior-metal-ceramic-practice': {
    tooth: '11',
    task: {
      kind: 'crown',
      aim: {
        ...ANTERIOR_CERAMIC,
        // As thick an edge as is left where clearance alone decides the lingual side: a level cut stays between its rounded edges.
        occlusal: { functional: 0.46, nonFunctional: 0.46, elsewhere: 0.46 },
        incisal: 1.97,
        taper: { facial: 3, mesial: 3.5, lingual: 3, distal: 3.5 },
        margin: { ...ANTERIOR_CERAMIC.margin, width: { facial: 1.2, mesial: 0.9, lingual: 0.6, distal: 0.9 } },
        edgeRadius: 0.4,
        planes: [{ azimuth: 0, halfWidth: 80, angle: 25, depth: 1.3 }],
      },
    },
  },
  'canine-ceramic-practice': {
    tooth: '23',
    task: {
      kind: 'crown',
      aim: { ...ANTERIOR_CERAMIC, incisal: 1.6, edgeRadius: 0.5, planes: [{ azimuth: 0, halfWidth: 60, angle: 22, depth: 1.15 }] },
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
        occlusal: { functional: 0.85, nonFunctional: 0.85, elsewhere: 0.85 },
        incisal: 1.5,
        edgeRadius: 0.6,
        planes: [{ azimuth: 0, halfWidth: 60, angle: 20, depth: 1.1 }],
      },
    },
  },
  'class1-amalgam-practice': {
    tooth: '37',
    task: { kind: 'cavity', aim: classI(0.56, { facial: 4, mesial: -4, lingual: 4, distal: -5.5 }) },
  },
  'class1-amalgam-converging': {
    tooth: '37',
    task: { kind: 'cavity', aim: classI(0.62, { facial: 4, mesial: 4, lingual: 4, distal: 4 }) },
  },
  'class2-amalgam-primary': {
    tooth: '85',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({ depth: 1.35, isthmus: 1.3, dovetail: 0.2 }),
        boxes: [box('mesial', { width: 4, axialDepth: 1.05, overGingiva: 0.9, facial: 6, lingual: 6 })],
      },
    },
  },
  'class2-amalgam-minimal': {
    tooth: '24',
    task: {
      kind: 'cavity',
      aim: {
        ...CLEAN_CLASS_I,
        occlusal: occlusal({ isthmus: 1.55, distal: 0.45, depth: 1.75 }),
        boxes: [box('distal', { width: 4.15, axialDepth: 1.25, overGingiva: 2.15, toFacial: 0.05 })],
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
        boxes: (['mesial', 'distal'] as const).map((side) =>
          box(side, { facial: -4, lingual: -4, axial: -3, bevel: { along: 0.5, angle: 34 } }),
        ),
      },
    },
  },
  'onlay-ceramic-practice': {
    tooth: '46',
    task: {
      kind: 'onlay',
      aim: {
        ...CLEAN_ONLAY,
        // A shoulder that runs high over the boxes leaves enough of their covered walls for a lean.
        cover: {
          ...CLEAN_ONLAY.cover,
          occlusal: { functional: 2.5, nonFunctional: 2.2, elsewhere: 1.6 },
          margin: {
            ...CLEAN_ONLAY.cover.margin,
            height: { facial: 2.2, mesial: 2.6, lingual: 2.2, distal: 2.6 },
            width: { facial: 1, mesial: 0.8, lingual: 1, distal: 0.8 },
          },
        },
        inside: {
          ...CLEAN_ONLAY.inside,
          occlusal: occlusal({ isthmus: 2.2, dovetail: 0.1, depth: 2.66, walls: DIVERGING }),
          boxes: (['mesial', 'distal'] as const).map((side) => box(side, { width: 3.4, facial: -4, lingual: -4, axial: -4 })),
        },
      },
    },
  },
  'onlay-metal-practice': {
    tooth: '36',
    task: {
      kind: 'onlay',
      aim: {
        ...CLEAN_ONLAY,
        cover: {
          ...CLEAN_ONLAY.cover,
          occlusal: { functional: 1.65, nonFunctional: 1.2, elsewhere: 1.2 },
          margin: { ...CLEAN_ONLAY.cover.margin, rounding: 1, width: { facial: 0.5, mesial: 0.5, lingual: 0.5, distal: 0.5 } },
        },
        inside: {
          ...CLEAN_ONLAY.inside,
          occlusal: occlusal({ isthmus: 2, dovetail: 0.1, depth: 2.4, walls: DIVERGING }),
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
        pin: { diameter: 0.7, depth: 2.2, lingual: 2.1, ledge: 1.3 },
        // A little thinner a plate than usual opens the mesial contact with room to spare.
        plate: 0.32,
        crown: { ...THREE_QUARTER_ANTERIOR.crown, occlusal: { functional: 0.08, nonFunctional: 0.08, elsewhere: 0.5 } },
      },
    },
  },
} as const satisfies Record<string, Aim>;
