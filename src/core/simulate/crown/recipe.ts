import type { Sides } from '../sides.ts';

/** A full crown as it was cut, in the words of the trade; the simulator makes it so and knows the true values from it. */
export interface CrownRecipe {
  readonly kind: 'crown';
  /** Depth at each functional and non-functional cusp, the ridges and valleys (mm, normal to the surface). */
  readonly occlusal: {
    readonly functional: number;
    readonly nonFunctional: number;
    readonly elsewhere: number;
    readonly cusps?: Readonly<Record<string, number>>;
  };
  /** The top while it is not yet reduced: it stands, or carries depth cuts alone, of a radius (mm), along the grooves or down the ridges. */
  readonly top?: 'stands' | { readonly along: 'grooves' | 'ridges'; readonly radius: number };
  /** Anterior: along the axis from the incisal edge (mm). */
  readonly incisal?: number;
  /** Anterior: degrees by which the incisal cut falls to lingual. */
  readonly incisalTilt?: number;
  /** 0 follows the cusps, 1 is cut straight across. */
  readonly flatten: number;
  /** Lean of each wall to the long axis, degrees, + converging. */
  readonly taper: Sides;
  readonly margin: {
    readonly width: Sides;
    /** Radius between floor and wall as a share of the width: 0 shoulder, 0.4 rounded shoulder, 1 chamfer. */
    readonly rounding: number;
    /** Rise of the floor towards the wall, degrees. */
    readonly slope: number;
    /** Height of the finish line over the gingival margin, mm. */
    readonly height: Sides;
    /** A bevel between floor and finish line: mm along the profile, and degrees to the long axis. */
    readonly bevel?: { readonly width: number; readonly angle: number };
    /** mm: amplitude of a wave along the finish line, and how many waves. */
    readonly wander: number;
    readonly waves: number;
    /** Stretches where the margin is not as elsewhere. */
    readonly places?: readonly MarginPlace[];
  };
  /** Planes cut over a side: angle to the axis, depth below the tooth's own profile there. */
  readonly planes: readonly { readonly azimuth: number; readonly halfWidth: number; readonly angle: number; readonly depth: number }[];
  /** mm: rounding of the occlusoaxial edge. */
  readonly edgeRadius: number;
  /** Extra lean of the wall round an azimuth (degrees of arc), as a handpiece tilt leaves it. */
  readonly tilts: readonly { readonly azimuth: number; readonly halfWidth: number; readonly lean: number }[];
  /** A contact that was not broken: so many mm of tooth left standing between the cut and the neighbour. */
  readonly shell?: { readonly side: 'mesial' | 'distal'; readonly thickness: number };
}

/** A stretch of the margin that differs by so much, mm: its height, its width, and how far a trough sinks under its edge. */
export interface MarginPlace {
  readonly azimuth: number;
  readonly halfWidth: number;
  /** Degrees of transition at each end; near 0 it is a step. */
  readonly over: number;
  readonly height?: number;
  readonly width?: number;
  readonly lip?: number;
}

export const CLEAN_CROWN: CrownRecipe = {
  kind: 'crown',
  occlusal: { functional: 1.5, nonFunctional: 1.2, elsewhere: 1.2 },
  flatten: 0,
  taper: { facial: 5, mesial: 4, lingual: 5, distal: 4 },
  margin: {
    width: { facial: 0.7, mesial: 0.6, lingual: 0.6, distal: 0.6 },
    rounding: 1,
    slope: 0,
    height: { facial: 0.5, mesial: 0.4, lingual: 0.5, distal: 0.4 },
    wander: 0,
    waves: 7,
  },
  planes: [],
  edgeRadius: 0.3,
  tilts: [],
};

/** Crown aims of the usual exercises, one per standard. */
export const ZIRCONIA_POSTERIOR: CrownRecipe = {
  ...CLEAN_CROWN,
  occlusal: { functional: 1.25, nonFunctional: 1.1, elsewhere: 1.1 },
  taper: { facial: 4, mesial: 3.5, lingual: 4, distal: 4 },
  margin: {
    ...CLEAN_CROWN.margin,
    width: { facial: 0.6, mesial: 0.55, lingual: 0.55, distal: 0.55 },
    height: { facial: 0.5, mesial: 0.45, lingual: 0.5, distal: 0.45 },
  },
};

export const METAL_CERAMIC_FACIAL: CrownRecipe = {
  ...CLEAN_CROWN,
  occlusal: { functional: 1.6, nonFunctional: 1.6, elsewhere: 1.5 },
  taper: { facial: 4, mesial: 4, lingual: 4, distal: 4 },
  margin: {
    ...CLEAN_CROWN.margin,
    rounding: 0.35,
    width: { facial: 1.15, mesial: 0.8, lingual: 0.55, distal: 0.8 },
    height: { facial: 0.4, mesial: 0.4, lingual: 0.4, distal: 0.4 },
  },
  planes: [{ azimuth: 0, halfWidth: 45, angle: 20, depth: 1.4 }],
};

export const ANTERIOR_CERAMIC: CrownRecipe = {
  ...CLEAN_CROWN,
  occlusal: { functional: 0.8, nonFunctional: 0.8, elsewhere: 0.8 },
  incisal: 1.6,
  taper: { facial: 4, mesial: 4, lingual: 4, distal: 4 },
  margin: {
    ...CLEAN_CROWN.margin,
    rounding: 0.35,
    width: { facial: 0.95, mesial: 0.9, lingual: 0.9, distal: 0.9 },
    height: { facial: 0.4, mesial: 0.3, lingual: 0.4, distal: 0.3 },
  },
  planes: [{ azimuth: 0, halfWidth: 60, angle: 20, depth: 1.1 }],
  edgeRadius: 0.5,
};
