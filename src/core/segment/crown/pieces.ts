import type { LineSums } from '../polyline.ts';

/** One straight piece of a profile, seen from the finish line inward: 0° runs inward, 90° runs occlusally. */
export interface Piece {
  readonly from: number;
  readonly to: number;
  readonly angle: number;
  readonly length: number;
}

/** mm between the points of a profile. */
export const STEP = 0.06;

/** mm: distance over which scan noise is shared; a fit's points nearer than this do not count twice. */
export const PATCH = 0.3;

export function meanOf(a: ArrayLike<number>, from: number, to: number): number {
  let s = 0;
  for (let i = from; i < to; i++) s += a[i];
  return s / (to - from);
}

export const lineAngleInward = (sums: LineSums, from: number, to: number): number => {
  const l = sums.line(from, to);
  return (Math.atan2(l.dy, -l.dx) * 180) / Math.PI;
};

/** mm: standard deviation of a profile's points, at least 0.01: a fit may say less than the scan's noise is. */
export const sigmaOf = (noise: number): number => Math.max(noise, 0.01);
