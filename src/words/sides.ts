const SIDES = ['facial', 'mesiofacial', 'mesial', 'mesiolingual', 'lingual', 'distolingual', 'distal', 'distofacial'] as const;

/** The side or line angle that lies nearest to an azimuth, from facial over mesial. */
export const placeWords = (azimuth: number): string => SIDES[Math.round((((azimuth % 360) + 360) % 360) / 45) % 8];

/** Index of the profile nearest to an azimuth, among `count` evenly spaced ones. */
export const profileIndex = (azimuth: number, count: number): number => Math.round((((azimuth % 360) + 360) % 360) / (360 / count)) % count;
