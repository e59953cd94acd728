import type { Vec3 } from './vec.ts';

/**
 * Solves the symmetric positive definite system A x = b by Cholesky; A is row-major n × n and is not changed.
 * Returns null when A is not (numerically) positive definite: the caller decides what that means.
 */
export function solveSymmetric(a: ArrayLike<number>, b: ArrayLike<number>, n: number): number[] | null {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let s = a[i * n + j];
      for (let k = 0; k < j; k++) s -= l[i * n + k] * l[j * n + k];
      if (i === j) {
        if (!(s > 1e-14 * Math.abs(a[i * n + i]))) return null;
        l[i * n + i] = Math.sqrt(s);
      } else l[i * n + j] = s / l[j * n + j];
    }
  const y = new Array<number>(n);
  for (let i = 0; i < n; i++) {
    let s = b[i];
    for (let k = 0; k < i; k++) s -= l[i * n + k] * y[k];
    y[i] = s / l[i * n + i];
  }
  for (let i = n - 1; i >= 0; i--) {
    let s = y[i];
    for (let k = i + 1; k < n; k++) s -= l[k * n + i] * y[k];
    y[i] = s / l[i * n + i];
  }
  return y;
}

/** Adds the observation f · x = y of weight w to the normal equations of n unknowns; of the matrix only the lower triangle, which is all that `solveSymmetric` reads. */
export function addObservation(a: Float64Array, b: Float64Array, f: ArrayLike<number>, w: number, y: number): void {
  const n = b.length;
  for (let i = 0; i < n; i++) {
    b[i] += w * f[i] * y;
    for (let j = 0; j <= i; j++) a[n * i + j] += w * f[i] * f[j];
  }
}

/** Eigenvalues (ascending) and unit eigenvectors of a symmetric 3 × 3 matrix, by cyclic Jacobi rotations. */
export function eigenSymmetric3(m: readonly number[]): { values: number[]; vectors: Vec3[] } {
  const a = [
    [m[0], m[1], m[2]],
    [m[3], m[4], m[5]],
    [m[6], m[7], m[8]],
  ];
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (let sweep = 0; sweep < 60; sweep++) {
    const off = Math.abs(a[0][1]) + Math.abs(a[0][2]) + Math.abs(a[1][2]);
    if (off < 1e-15 * (Math.abs(a[0][0]) + Math.abs(a[1][1]) + Math.abs(a[2][2]) + 1e-300)) break;
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      if (a[p][q] === 0) continue;
      const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
      const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) {
        const x = a[k][p];
        const y = a[k][q];
        a[k][p] = c * x - s * y;
        a[k][q] = s * x + c * y;
      }
      for (let k = 0; k < 3; k++) {
        const x = a[p][k];
        const y = a[q][k];
        a[p][k] = c * x - s * y;
        a[q][k] = s * x + c * y;
        const vx = v[k][p];
        const vy = v[k][q];
        v[k][p] = c * vx - s * vy;
        v[k][q] = s * vx + c * vy;
      }
    }
  }
  const order = [0, 1, 2].sort((i, j) => a[i][i] - a[j][j]);
  return { values: order.map((i) => a[i][i]), vectors: order.map((i) => [v[0][i], v[1][i], v[2][i]] as Vec3) };
}
