import type { CavityRecipe } from './cavity/recipe.ts';
import type { FaultRecipe } from './faults.ts';
import type { OnlayRecipe } from './onlay/recipe.ts';
import type { PartialRecipe } from './partial/recipe.ts';
import type { PreformedRecipe } from './preformed/recipe.ts';
import type { CariesRecipe } from './tooth/inner.ts';

/** What was cut, in the words of the trade; the simulator makes it so and knows the true values from it. */
export type Sides = { readonly facial: number; readonly mesial: number; readonly lingual: number; readonly distal: number };

export interface CrownRecipe {
  readonly kind: 'crown';
  /** Depth at each functional and non-functional cusp, the ridges and valleys (mm, normal to the surface). */
  readonly occlusal: {
    readonly functional: number;
    readonly nonFunctional: number;
    readonly elsewhere: number;
    readonly cusps?: Readonly<Record<string, number>>;
  };
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
  /** Degrees over which it comes and goes: near 0 it begins with a step. */
  readonly over: number;
  readonly height?: number;
  readonly width?: number;
  readonly lip?: number;
}

export type Preparation = CrownRecipe | CavityRecipe | OnlayRecipe | PartialRecipe | PreformedRecipe;

export interface Recipe {
  readonly format: 'veritor-recipe/1';
  /** FDI. */
  readonly tooth: string;
  readonly seed: number;
  /** Decay in the tooth; left out or null for a sound one. It belongs to the master as much as to the scan. */
  readonly caries?: CariesRecipe | null;
  readonly preparation: Preparation;
  /** How much of the arch the master shows; the tooth with its neighbours when left out. */
  readonly arch?: 'neighbours' | 'quadrant';
  /** Which tooth was cut, when it was not the one that was asked for. */
  readonly cut?: 'mesial' | 'distal';
  readonly neighbourDamage: { readonly mesial: number; readonly distal: number };
  /** Named faults over the preparation as it is described. */
  readonly faults?: readonly FaultRecipe[];
  readonly scan: ScanRecipe;
}

export const SCAN_FILES = ['stl', 'stl-ascii', 'ply', 'obj'] as const;
export type ScanFileKind = (typeof SCAN_FILES)[number];

export interface ScanRecipe {
  readonly triangles: number;
  /** mm: standard deviation of a point's noise, and the distance over which it is shared. */
  readonly noise: number;
  readonly correlation: number;
  /** Random pose when not given: row-major 4 × 4, tooth frame of the file to scanner. */
  readonly pose: 'random' | 'none';
  /** mm beyond the neighbours' middles at which the scan is cut off. */
  readonly border: number;
  /** Degrees from the axis up to which the camera looks in; what it cannot see from there is missing. All is seen when left out. */
  readonly sight?: number;
  readonly file?: ScanFileKind;
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

export const defaultRecipe = (tooth: string, seed: number, preparation: Preparation = CLEAN_CROWN): Recipe => ({
  format: 'veritor-recipe/1',
  tooth,
  seed,
  preparation,
  neighbourDamage: { mesial: 0, distal: 0 },
  scan: { triangles: 150_000, noise: 0.02, correlation: 0.25, pose: 'random', border: 1 },
});

/** A side value that changes smoothly round the tooth; exact on each side's middle. `phi` in radians. */
export function sideValue(v: Sides, phi: number): number {
  const c = Math.cos(phi);
  const s = Math.sin(phi);
  return (c > 0 ? v.facial : v.lingual) * c * c + (s > 0 ? v.mesial : v.distal) * s * s;
}

/** Crown aims of the usual exercises, one a standard. */
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
  incisal: 1.8,
  taper: { facial: 4, mesial: 4, lingual: 4, distal: 4 },
  margin: {
    ...CLEAN_CROWN.margin,
    rounding: 0.35,
    width: { facial: 0.95, mesial: 0.9, lingual: 0.9, distal: 0.9 },
    height: { facial: 0.4, mesial: 0.3, lingual: 0.4, distal: 0.3 },
  },
  planes: [{ azimuth: 0, halfWidth: 45, angle: 22, depth: 1 }],
};
