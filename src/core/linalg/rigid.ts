import { cross, dot, unit, type Vec3 } from './vec.ts';

/** Row-major 4 × 4 affine matrix acting on column vectors: p' = R p + t. */
export type Matrix = readonly number[];

export const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

export function applyPoint(m: Matrix, p: Vec3): Vec3 {
  return [
    m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3],
    m[4] * p[0] + m[5] * p[1] + m[6] * p[2] + m[7],
    m[8] * p[0] + m[9] * p[1] + m[10] * p[2] + m[11],
  ];
}

export function applyDirection(m: Matrix, d: Vec3): Vec3 {
  return [m[0] * d[0] + m[1] * d[1] + m[2] * d[2], m[4] * d[0] + m[5] * d[1] + m[6] * d[2], m[8] * d[0] + m[9] * d[1] + m[10] * d[2]];
}

export function multiply(a: Matrix, b: Matrix): Matrix {
  const out = new Array<number>(16);
  for (let r = 0; r < 4; r++)
    for (let c = 0; c < 4; c++) {
      let s = 0;
      for (let k = 0; k < 4; k++) s += a[r * 4 + k] * b[k * 4 + c];
      out[r * 4 + c] = s;
    }
  return out;
}

/** Inverse of a matrix whose 3 × 3 part is orthogonal (rotation, or rotation with reflection). */
export function invertRigid(m: Matrix): Matrix {
  const t: Vec3 = [m[3], m[7], m[11]];
  const rows: Vec3[] = [
    [m[0], m[4], m[8]],
    [m[1], m[5], m[9]],
    [m[2], m[6], m[10]],
  ];
  return [...rows.flatMap((r) => [r[0], r[1], r[2], -dot(r, t)]), 0, 0, 0, 1];
}

export const determinant3 = (m: Matrix): number => dot([m[0], m[1], m[2]], cross([m[4], m[5], m[6]], [m[8], m[9], m[10]]));

export const fromRotation = (axis: Vec3, radians: number): Matrix => {
  const [x, y, z] = unit(axis);
  const c = Math.cos(radians);
  const s = Math.sin(radians);
  const k = 1 - c;
  return [
    c + x * x * k,
    x * y * k - z * s,
    x * z * k + y * s,
    0,
    y * x * k + z * s,
    c + y * y * k,
    y * z * k - x * s,
    0,
    z * x * k - y * s,
    z * y * k + x * s,
    c + z * z * k,
    0,
    0,
    0,
    0,
    1,
  ];
};

export const fromTranslation = (t: Vec3): Matrix => [1, 0, 0, t[0], 0, 1, 0, t[1], 0, 0, 1, t[2], 0, 0, 0, 1];

/** Rotation about `centre`: T(c) R T(-c). */
export const about = (centre: Vec3, rotation: Matrix): Matrix =>
  multiply(fromTranslation(centre), multiply(rotation, fromTranslation([-centre[0], -centre[1], -centre[2]])));

export function transformPoints(m: Matrix, points: Float64Array): Float64Array {
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3) {
    const x = points[i];
    const y = points[i + 1];
    const z = points[i + 2];
    out[i] = m[0] * x + m[1] * y + m[2] * z + m[3];
    out[i + 1] = m[4] * x + m[5] * y + m[6] * z + m[7];
    out[i + 2] = m[8] * x + m[9] * y + m[10] * z + m[11];
  }
  return out;
}
