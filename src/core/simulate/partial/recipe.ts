import { CLEAN_CROWN, type CrownRecipe } from '../crown/recipe.ts';

export interface GrooveRecipe {
  readonly side: 'mesial' | 'distal';
  /** A groove is as round as its cutter; a box has a level axial wall, its corners rounded by 0.2 mm. */
  readonly form: 'groove' | 'box';
  /** Diameter of the cutter (of a box, between its side walls), and how deep it goes into the wall at its middle, mm. */
  readonly width: number;
  readonly depth: number;
  /** mm over the finish line at which the groove ends. */
  readonly over: number;
  /** Degrees by which the handpiece leaned: outward, and to facial. */
  readonly leanOut: number;
  readonly leanFacial: number;
}

/** A three-quarter crown as it was cut: a crown whose facial plate was left standing, with grooves or boxes and a pinhole. */
export interface PartialRecipe {
  readonly kind: 'partial';
  readonly crown: Omit<CrownRecipe, 'kind'>;
  /** mm of the facial plate's inner face in front of the tooth's middle, as a share of half the faciolingual size. */
  readonly plate: number;
  readonly grooves: readonly GrooveRecipe[];
  readonly pin: null | {
    readonly diameter: number;
    readonly depth: number;
    /** mm lingual of the axis, and of the ledge's width about it. */
    readonly lingual: number;
    readonly ledge: number;
  };
  /** A groove along the lingual side of an anterior tooth's edge, from proximal groove to proximal groove: its width, its depth, mm lingual of the plate's inner face. */
  readonly incisal?: { readonly width: number; readonly depth: number; readonly lingual: number };
}

const { kind: _crown, ...crown } = CLEAN_CROWN;
export const groove = (side: GrooveRecipe['side'], change: Partial<GrooveRecipe> = {}): GrooveRecipe => ({
  side,
  form: 'groove',
  width: 1,
  depth: 0.7,
  over: 0.5,
  leanOut: 0,
  leanFacial: 0,
  ...change,
});

/** A posterior three-quarter crown with a groove each side. */
export const CLEAN_PARTIAL: PartialRecipe = {
  kind: 'partial',
  crown: {
    ...crown,
    occlusal: { functional: 1.2, nonFunctional: 1, elsewhere: 1 },
    taper: { facial: 4, mesial: 3, lingual: 4, distal: 3 },
    margin: { ...crown.margin, width: { facial: 0.5, mesial: 0.5, lingual: 0.5, distal: 0.5 } },
  },
  plate: 0.42,
  grooves: [groove('mesial'), groove('distal')],
  pin: null,
};

/** A posterior three-quarter crown with a box each side instead of grooves, as where decay or an old filling was. */
export const THREE_QUARTER_BOXES: PartialRecipe = {
  ...CLEAN_PARTIAL,
  grooves: (['mesial', 'distal'] as const).map((side) => groove(side, { form: 'box', width: 2.4, depth: 0.9 })),
};

/** An anterior three-quarter crown: lingual reduction, two grooves, a pinhole in the cingulum. */
export const THREE_QUARTER_ANTERIOR: PartialRecipe = {
  ...CLEAN_PARTIAL,
  crown: { ...CLEAN_PARTIAL.crown, occlusal: { functional: 0.7, nonFunctional: 0.7, elsewhere: 0.7 }, incisal: 0.7 },
  plate: 0.3,
  grooves: [groove('mesial', { width: 0.9, depth: 0.6 }), groove('distal', { width: 0.9, depth: 0.6 })],
  pin: { diameter: 0.7, depth: 2, lingual: 1.6, ledge: 1.3 },
};
