/** Target depths (mm) by surface: what the ramp's pale middle stands for. */
export interface DepthBands {
  readonly occlusal: readonly [number, number];
  readonly axial: readonly [number, number];
}

/** Surface kinds as they stand in the display mesh. */
export const SURFACE = { none: 0, floor: 1, wall: 2, occlusal: 3 } as const;

const UNCUT: Colour = [0.87, 0.87, 0.84];
const ON_TARGET: Colour = [0.95, 0.93, 0.87];
const TOO_LITTLE: Colour = [0.85, 0.45, 0.08];
const TOO_MUCH: Colour = [0.4, 0.2, 0.62];
type Colour = readonly [number, number, number];

/** mm beyond the band at which the colour is full. */
const FULL_AT = 0.5;

const mix = (a: Colour, b: Colour, t: number): Colour => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

/** Diverging ramp whose middle is the target band: amber-orange where too little was removed, violet where too much. */
export function depthColour(depth: number, surface: number, bands: DepthBands): Colour {
  if (surface === SURFACE.none) return UNCUT;
  if (surface === SURFACE.floor) return ON_TARGET;
  const [lo, hi] = surface === SURFACE.occlusal ? bands.occlusal : bands.axial;
  if (depth < lo) return mix(ON_TARGET, TOO_LITTLE, Math.min(1, 0.25 + (lo - depth) / FULL_AT));
  if (depth > hi) return mix(ON_TARGET, TOO_MUCH, Math.min(1, 0.25 + (depth - hi) / FULL_AT));
  return ON_TARGET;
}
