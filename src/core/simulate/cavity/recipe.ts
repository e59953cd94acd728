import type { Sides } from '../sides.ts';

/** One proximal box: a second, deeper floor that opens on the tooth's side. */
export interface BoxRecipe {
  readonly side: 'mesial' | 'distal';
  /** Faciolingual width of the gingival floor, mm. */
  readonly width: number;
  /** mm by which the box lies facially of the central groove's line; 0 when left out. */
  readonly toFacial?: number;
  /** Gingival floor from the outer surface to the axial wall, mm. */
  readonly axialDepth: number;
  /** Height of the gingival floor over the gingival margin on that side, mm. */
  readonly overGingiva: number;
  /** Degrees to the axis, + converging occlusally. */
  readonly facial: number;
  readonly lingual: number;
  readonly axial: number;
  /** Bevel of the gingival margin: mm of the floor that it takes, and degrees that it falls off the floor. */
  readonly bevel?: { readonly along: number; readonly angle: number };
  /** Bevel of the facial margin: mm of the facial wall that it takes, and degrees that it turns off the wall. */
  readonly facialBevel?: { readonly along: number; readonly angle: number };
}

/** mm: amplitude and length of waves up a wall. */
export interface Waves {
  readonly height: number;
  readonly length: number;
}

/** A cavity as it was cut: what lies under the grooves, and boxes to the sides. */
export interface CavityRecipe {
  readonly kind: 'cavity';
  /** Null for a slot: the box alone. */
  readonly occlusal: {
    /** Width across the groove at the floor, mm, at its narrowest. */
    readonly isthmus: number;
    /** How much wider the ends are than the isthmus (0: parallel). */
    readonly dovetail: number;
    /** Ends of the floor as shares of half the mesiodistal size, from the middle. */
    readonly mesial: number;
    readonly distal: number;
    /** mm under the central groove, along the axis. */
    readonly depth: number;
    /** Floor's slope, degrees: + rises to mesial, + rises to facial. */
    readonly tiltMesial: number;
    readonly tiltFacial: number;
    /** mm by which the floor's middle lies deeper than its rim. */
    readonly dish: number;
    /** Degrees to the axis, + converging occlusally. */
    readonly walls: Sides;
  } | null;
  readonly boxes: readonly BoxRecipe[];
  /** mm: rounding where floors meet walls. */
  readonly lineRadius: number;
  /** mm: width of the bevel where the pulpal floor meets a box's axial wall. */
  readonly axiopulpal: number;
  /** Waves that a chattering cutter leaves on all walls: half their height, and mm from one to the next up the wall. */
  readonly chatter?: Waves;
  /** mm of tooth that still stand between the boxes and the neighbours; 0 or left out once the contacts are open. */
  readonly shell?: number;
}

export const CLEAN_CLASS_I: CavityRecipe = {
  kind: 'cavity',
  occlusal: {
    isthmus: 1.2,
    dovetail: 0.35,
    mesial: 0.5,
    distal: 0.5,
    depth: 1.8,
    tiltMesial: 0,
    tiltFacial: 0,
    dish: 0,
    walls: { facial: 4, mesial: -3, lingual: 4, distal: -3 },
  },
  boxes: [],
  lineRadius: 0.15,
  axiopulpal: 0.3,
};

export const box = (side: BoxRecipe['side'], change: Partial<BoxRecipe> = {}): BoxRecipe => ({
  side,
  width: 3.4,
  axialDepth: 1.3,
  overGingiva: 0.7,
  facial: 3,
  lingual: 2,
  axial: 0,
  ...change,
});

/** A clean Class II on one side: the occlusal part runs on into the box. */
export const cleanClassII = (side: BoxRecipe['side'], change: Partial<BoxRecipe> = {}): CavityRecipe => ({
  ...CLEAN_CLASS_I,
  boxes: [box(side, change)],
});
