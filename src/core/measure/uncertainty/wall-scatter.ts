import { STEP } from '../../segment/crown/pieces.ts';
import type { Wall } from '../../segment/crown/wall.ts';

/** Degrees times mm of fitted wall: what roundings at a wall's foot and edge, taken for wall, turn its line by. */
const ROUNDED = 0.7;

/** Standard uncertainty (degrees) of a wall's line at one azimuth: how far it leans off its neighbours, its points' noise, and the less wall there is, the more of it is rounded. */
export const wallScatter = (w: Wall, smoothed: number): number =>
  Math.hypot(w.lean - smoothed, w.u, ROUNDED / (STEP * Math.max(1, w.to - w.from)));
