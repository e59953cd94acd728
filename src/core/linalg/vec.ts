/** Three-component vectors as plain tuples; hot loops elsewhere work on typed arrays instead. */
export type Vec3 = readonly [number, number, number];

/** A vector by what each of its three coordinates is. */
export const byAxis = (of: (axis: number) => number): Vec3 => [of(0), of(1), of(2)];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const length = (a: Vec3): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
export const distance = (a: Vec3, b: Vec3): number => length(sub(a, b));

/** Unit vector; a zero vector has no direction and throws, so that it can never turn into NaN further on. */
export function unit(a: Vec3): Vec3 {
  const l = length(a);
  if (!(l > 0)) throw new RangeError('a vector of length zero has no direction');
  return scale(a, 1 / l);
}

export const DEG = Math.PI / 180;
export const toDegrees = (radians: number): number => radians / DEG;
export const toRadians = (degrees: number): number => degrees * DEG;

/** Angle between two directions, in degrees, exact near 0 and 180 (atan2 of sine and cosine). */
export const angleBetween = (a: Vec3, b: Vec3): number => toDegrees(Math.atan2(length(cross(a, b)), dot(a, b)));

/** Azimuth difference folded to [-180, 180). */
export const wrapDegrees = (a: number): number => ((((a + 180) % 360) + 360) % 360) - 180;
export const modDegrees = (a: number): number => ((a % 360) + 360) % 360;
