/** One proximal slice: it leans to the axis, ends so high over the gingival margin, and leaves a ledge where it was not carried through. */
export interface SliceRecipe {
  /** Degrees to the axis, + converging occlusally. */
  readonly lean: number;
  /** mm over the gingival margin at which it runs out of the tooth's side. */
  readonly over: number;
  /** mm: width of the ledge at its end; 0 is a feather edge, as it should be. */
  readonly ledge: number;
}

/** What a preformed crown asks for: the top lowered all over, the contacts opened by slices, no margin to rest on. */
export interface PreformedRecipe {
  readonly kind: 'preformed';
  /** mm under the cusps and between them. */
  readonly occlusal: number;
  readonly mesial: SliceRecipe | null;
  readonly distal: SliceRecipe | null;
}

export const CLEAN_SLICE: SliceRecipe = { lean: 6, over: 0, ledge: 0 };
export const CLEAN_PREFORMED: PreformedRecipe = { kind: 'preformed', occlusal: 1.3, mesial: CLEAN_SLICE, distal: CLEAN_SLICE };
