import { wrapDegrees } from './vec.ts';

/** Sectors by azimuth about the long axis: four sides ± 45°, four line angles ± 15°. */
export const SIDES = ['facial', 'mesial', 'lingual', 'distal'] as const;
export const LINE_ANGLES = ['mesiofacial', 'mesiolingual', 'distolingual', 'distofacial'] as const;
export type Side = (typeof SIDES)[number];
export type Sector = Side | (typeof LINE_ANGLES)[number];

export const SECTORS: readonly { readonly name: Sector; readonly centre: number; readonly half: number }[] = [
  { name: 'facial', centre: 0, half: 45 },
  { name: 'mesiofacial', centre: 45, half: 15 },
  { name: 'mesial', centre: 90, half: 45 },
  { name: 'mesiolingual', centre: 135, half: 15 },
  { name: 'lingual', centre: 180, half: 45 },
  { name: 'distolingual', centre: 225, half: 15 },
  { name: 'distal', centre: 270, half: 45 },
  { name: 'distofacial', centre: 315, half: 15 },
];

export const inSector = (azimuth: number, s: { centre: number; half: number }): boolean =>
  Math.abs(wrapDegrees(azimuth - s.centre)) <= s.half;

/** Azimuth of (x, y) in degrees, 0 ≤ φ < 360. */
export const azimuthOf = (x: number, y: number): number => ((Math.atan2(x, y) * 180) / Math.PI + 360) % 360;
