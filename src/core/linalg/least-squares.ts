/** Weighted least squares by normal equations, with a small ridge term so that a narrow wall stays stable. */
export function leastSquares(rows: readonly { f: readonly number[]; x: number; w: number }[]): number[] | null {
  const n = rows[0].f.length;
  const a = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { f, x, w } of rows)
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) a[i][j] += w * f[i] * f[j];
      a[i][n] += w * f[i] * x;
    }
  for (let i = 0; i < n; i++) a[i][i] *= 1 + 1e-9;
  for (let i = 0; i < n; i++) {
    let best = i;
    for (let k = i + 1; k < n; k++) if (Math.abs(a[k][i]) > Math.abs(a[best][i])) best = k;
    [a[i], a[best]] = [a[best], a[i]];
    if (Math.abs(a[i][i]) < 1e-12) return null;
    for (let k = 0; k < n; k++) {
      if (k === i) continue;
      const q = a[k][i] / a[i][i];
      for (let j = i; j <= n; j++) a[k][j] -= q * a[i][j];
    }
  }
  return a.map((row, i) => row[n] / row[i]);
}
