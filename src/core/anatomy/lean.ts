import { fromRotation, IDENTITY, type Matrix } from '../linalg/rigid.ts';
import { cross, toRadians, unit, type Vec3 } from '../linalg/vec.ts';
import { isPrimary, isUpper } from './anatomy.ts';

/**
 * Degrees by which a crown's long axis leans in its arch, to mesial and to facial, by FDI position: anteriors flare,
 * lower molars stand in to the tongue and forward, upper molars out to the cheek and the last of them back.
 */
const UPPER: readonly (readonly [number, number])[] = [
  [2, 14],
  [4, 13],
  [6, 8],
  [4, 4],
  [4, 5],
  [4, 8],
  [-2, 10],
  [-6, 12],
];
const LOWER: readonly (readonly [number, number])[] = [
  [1, 11],
  [1, 10],
  [3, 4],
  [4, -4],
  [6, -8],
  [8, -13],
  [11, -16],
  [14, -18],
];
/** Primary teeth stand nearly upright. */
const PRIMARY = { upper: [2, 3], lower: [2, -4] } as const;

export function leanOf(tooth: string): readonly [mesial: number, facial: number] {
  if (isPrimary(tooth)) return PRIMARY[isUpper(tooth) ? 'upper' : 'lower'];
  return (isUpper(tooth) ? UPPER : LOWER)[Number(tooth[1]) - 1];
}

/** From the tooth's own frame to its arch's (z across the occlusal plane): a turn about a line in that plane. */
export function leanMatrix([mesial, facial]: readonly [number, number]): Matrix {
  const axis = unit([Math.tan(toRadians(mesial)), Math.tan(toRadians(facial)), 1]);
  const about: Vec3 = cross([0, 0, 1], axis);
  const sine = Math.hypot(about[0], about[1]);
  return sine < 1e-9 ? IDENTITY : fromRotation(about, Math.asin(sine));
}
