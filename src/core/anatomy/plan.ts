/** The plan of one tooth class in figures; the quadrant only mirrors it. Shares of half the mesiodistal size (x, + mesial), half the faciolingual size (y, + facial) and the crown height (z). */
export type ToothClass = 'incisor' | 'canine' | 'premolar' | 'molar';

export interface CuspPlan {
  readonly name: string;
  readonly at: readonly [x: number, y: number, z: number];
  readonly functional: boolean;
  /** Fall of the inner incline and of the outer one (rise over run). */
  readonly inner: number;
  readonly outer: number;
}
export interface RidgePlan {
  readonly name: 'mesial' | 'distal' | 'oblique' | 'triangular';
  readonly line: readonly (readonly [number, number, number])[];
  readonly slope: number;
}
/** A secondary groove from one place to another, seen along the axis (shares). */
export interface GroovePlan {
  readonly name: string;
  readonly line: readonly [from: readonly [number, number], to: readonly [number, number]];
}
export interface ToothPlan {
  readonly kind: ToothClass;
  readonly upper: boolean;
  readonly md: number;
  readonly fl: number;
  readonly height: number;
  /** Exponent of the outline's superellipse: 2 is an ellipse, more is boxier. */
  readonly squareness: number;
  /** How much narrower the lingual half is than the facial one; 0.05 where it is not said. */
  readonly narrow?: number;
  /** Size at the cervix and at the occlusal end as a share of the largest, and the height of contour: facial, mesial, lingual, distal. */
  readonly cervix: readonly [number, number, number, number];
  readonly top: readonly [number, number, number, number];
  readonly contour: readonly [number, number, number, number];
  readonly cusps: readonly CuspPlan[];
  readonly ridges: readonly RidgePlan[];
  /** mm: rounding between the sides and the top. */
  readonly edge: number;
  /** Polyline of the primary central groove (shares), where there is one. */
  readonly groove: readonly (readonly [number, number, number])[];
  /** mm: how deep that groove is sunk beyond the valley between the cusps. */
  readonly furrow?: number;
  /** From the central groove between the cusps and into the corners of the fossae. */
  readonly secondary: readonly GroovePlan[];
  /** Anterior teeth: what stands in place of cusps and ridges. */
  readonly blade?: BladePlan;
}

/** The incisal edge and the lingual face. */
export interface BladePlan {
  /** mm from the facial face back to the middle of the edge. */
  readonly behind: number;
  /** Height of the cingulum, share of the crown's. */
  readonly cingulum: number;
  /** Steepness of the lingual face under the edge over that at the cingulum. */
  readonly concavity: number;
  /** mm: depth of the lingual fossa between its marginal ridges. */
  readonly fossa: number;
  /** mm: how far lobes, or a canine's ridge, stand out on the facial face. */
  readonly lobes: number;
  /** How far the mesial and the distal corner lie under the edge, shares of the crown's height. */
  readonly corners: readonly [mesial: number, distal: number];
  /** A canine's: where it stands, the fall of its slopes (shares of the height a share of half the width), its roundness. */
  readonly tip: null | { readonly at: number; readonly mesial: number; readonly distal: number; readonly round: number };
}

export type CrownSize = readonly [mesiodistal: number, faciolingual: number, height: number];

/** Functional cusps: lingual above, facial below. */
export const cusp = (name: string, x: number, y: number, z: number, functional: boolean, inner = 0.62, outer = 1.15): CuspPlan => ({
  name,
  at: [x, y, z],
  functional,
  inner,
  outer,
});
export const groove = (name: string, ...line: GroovePlan['line']): GroovePlan => ({ name, line });
export const ridge = (name: RidgePlan['name'], line: RidgePlan['line'], slope: number): RidgePlan => ({ name, line, slope });
