/** Target depths (mm) by surface: what the ramp's pale middle stands for. */
export interface DepthBands {
  readonly occlusal: readonly [number, number];
  readonly axial: readonly [number, number];
  /** Least thickness of a partial crown's facial plate; null or absent where the rubric has none. */
  readonly plate?: number | null;
}

/** Surface kinds as they stand in the display mesh. */
export const SURFACE = { none: 0, floor: 1, wall: 2, occlusal: 3, inner: 1, damaged: 4, closed: 5 } as const;

/** One byte per vertex: the band that colours it (low three bits) and its named part (the other bits). */
export const surfaceCode = (surface: number, part: number): number => surface | (part << 3);
export const surfaceOf = (code: number): number => code & 7;
export const partOf = (code: number): number => code >> 3;

const UNCUT: Colour = [0.7, 0.75, 0.74];
const ON_TARGET: Colour = [0.97, 0.95, 0.88];
const TOO_LITTLE: Colour = [0.85, 0.45, 0.08];
const TOO_MUCH: Colour = [0.4, 0.2, 0.62];
/** A neighbour's lost surface, and both sides of a contact that was not opened. */
const DAMAGED: Colour = [0.61, 0.11, 0.11];
type Colour = readonly [number, number, number];

/** mm beyond the band at which the colour is full. */
const FULL_AT = 0.5;
/** mm of a neighbour's loss at which its colour is full. */
const DAMAGE_FULL_AT = 0.2;

const mix = (a: Colour, b: Colour, t: number): Colour => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

/** Whether a point is coloured for a critical error rather than for its depth. */
export const isMarked = (code: number): boolean => surfaceOf(code) === SURFACE.damaged || surfaceOf(code) === SURFACE.closed;

/** Diverging ramp whose middle is the target band: amber-orange where too little was removed, violet where too much. */
export function depthColour(depth: number, code: number, bands: DepthBands): Colour {
  const surface = surfaceOf(code);
  if (surface === SURFACE.none) return UNCUT;
  if (surface === SURFACE.damaged) return mix(UNCUT, DAMAGED, Math.min(1, 0.35 + depth / DAMAGE_FULL_AT));
  if (surface === SURFACE.closed) return DAMAGED;
  if (surface === SURFACE.floor) return ON_TARGET;
  const [lo, hi] = surface === SURFACE.occlusal ? bands.occlusal : bands.axial;
  if (depth < lo) return mix(ON_TARGET, TOO_LITTLE, Math.min(1, 0.25 + (lo - depth) / FULL_AT));
  if (depth > hi) return mix(ON_TARGET, TOO_MUCH, Math.min(1, 0.25 + (depth - hi) / FULL_AT));
  return ON_TARGET;
}

/** mm beyond its least thickness at which a plate has its fullest colour. */
const PLATE_FULL_AT = 2;
const PLATE_THICK: Colour = [0.3, 0.56, 0.62];
/** Colour of a facial plate by its thickness: orange where it is thinner than it has to be, pale where it is just thick enough, petrol where there is more. */
export const plateColour = (thickness: number, least: number | null): Colour =>
  least !== null && thickness < least
    ? mix(ON_TARGET, TOO_LITTLE, Math.min(1, 0.25 + (least - thickness) / FULL_AT))
    : mix(ON_TARGET, PLATE_THICK, Math.min(1, (thickness - (least ?? 0)) / PLATE_FULL_AT));

/** mm within which two scans count as the same, and from which their difference has its full colour. */
export const DIFFERENCE = { same: 0.1, full: 0.6 } as const;

/** Colours of the difference of two scans: orange where the later one has more left, violet where it has less, grey where nothing can be said. */
export function differenceColour(d: number | null): Colour {
  if (d === null) return UNCUT;
  const over = Math.abs(d) - DIFFERENCE.same;
  if (over <= 0) return ON_TARGET;
  return mix(ON_TARGET, d > 0 ? TOO_LITTLE : TOO_MUCH, Math.min(1, 0.25 + over / (DIFFERENCE.full - DIFFERENCE.same)));
}

/** Eighteen tints for named parts that stay apart for colour-blind eyes too, by lightness as well as hue. */
const PART_COLOURS: readonly Colour[] = [
  [0.93, 0.86, 0.62],
  [0.36, 0.58, 0.66],
  [0.74, 0.86, 0.84],
  [0.55, 0.42, 0.6],
  [0.84, 0.72, 0.84],
  [0.72, 0.5, 0.32],
  [0.42, 0.52, 0.4],
  [0.78, 0.84, 0.66],
  [0.3, 0.36, 0.5],
  [0.9, 0.7, 0.56],
  [0.62, 0.74, 0.84],
  [0.58, 0.58, 0.28],
  [0.86, 0.58, 0.62],
  [0.24, 0.46, 0.42],
  [0.66, 0.62, 0.56],
  [0.5, 0.3, 0.34],
  [0.84, 0.86, 0.9],
  [0.46, 0.62, 0.5],
];

export const partColour = (part: number): Colour => (part === 0 ? UNCUT : PART_COLOURS[(part - 1) % PART_COLOURS.length]);
