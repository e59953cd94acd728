/** ln Γ(x) for x > 0. @source Lanczos 1964, coefficients g = 7, n = 9 */
export function lnGamma(x: number): number {
  const c = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
    -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - lnGamma(1 - x);
  const t = x + 6.5;
  const sum = c.slice(1).reduce((s, k, i) => s + k / (x + i), c[0]);
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

const TINY = 1e-300;
/**
 * Regularized incomplete beta function.
 * @formula I_x(a, b), by its continued fraction
 * @source Abramowitz and Stegun 1964, 26.5.8; Lentz's method
 */
export function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  let c = 1;
  let d = (1 / Math.max(TINY, Math.abs(1 - ((a + b) * x) / (a + 1)))) * Math.sign(1 - ((a + b) * x) / (a + 1) || 1);
  let f = d;
  for (let m = 1; m < 400; m++) {
    for (const k of [(m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)), (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1))]) {
      d = 1 + k * d;
      c = 1 + k / c;
      if (Math.abs(d) < TINY) d = TINY;
      if (Math.abs(c) < TINY) c = TINY;
      d = 1 / d;
      f *= c * d;
    }
    if (Math.abs(c * d - 1) < 1e-15) break;
  }
  return (Math.exp(a * Math.log(x) + b * Math.log(1 - x) - lnGamma(a) - lnGamma(b) + lnGamma(a + b)) * f) / a;
}

/** Where a growing function reaches a value, by halving. */
function inverse(at: (x: number) => number, value: number, from: number, to: number): number {
  let [lo, hi] = [from, to];
  for (let i = 0; i < 200 && hi - lo > 1e-12 * Math.max(1, Math.abs(hi)); i++) {
    const mid = (lo + hi) / 2;
    if (at(mid) < value) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}

/** Student's t: chance of at most t with so many degrees of freedom. */
export function tChance(t: number, df: number): number {
  const tail = 0.5 * incompleteBeta(df / (df + t * t), df / 2, 0.5);
  return t > 0 ? 1 - tail : tail;
}
/** Student's t below which a share p lies. @example tQuantile(0.975, 4) = 2.776 */
export const tQuantile = (p: number, df: number): number => inverse((t) => tChance(t, df), p, -1e4, 1e4);

/** Fisher's F below which a share p lies. */
export const fQuantile = (p: number, d1: number, d2: number): number =>
  inverse((f) => incompleteBeta((d1 * f) / (d1 * f + d2), d1 / 2, d2 / 2), p, 0, 1e6);

/** Standard normal: chance of at most z. */
export function normalChance(z: number): number {
  // The t distribution with very many degrees of freedom, to 1e-7; where more is wanted, the series of erf.
  if (Math.abs(z) > 6) return z > 0 ? 1 : 0;
  let term = z;
  let sum = z;
  for (let k = 1; k < 200; k++) {
    term *= -(z * z) / (2 * k);
    const next = term / (2 * k + 1);
    sum += next;
    if (Math.abs(next) < 1e-17) break;
  }
  return 0.5 + sum / Math.sqrt(2 * Math.PI);
}
