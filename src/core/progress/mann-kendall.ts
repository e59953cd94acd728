import { normalChance } from '../statistics/beta.ts';
import { type Told, tooFew } from './told.ts';

export interface LevelTrend {
  /** Pairs that rise less pairs that fall. */
  readonly S: number;
  /** Two-sided. */
  readonly p: number;
  readonly isExact: boolean;
  readonly goes: 'up' | 'down' | null;
}

/** Four attempts can never show a trend at 5 %: even when each is better than the one before, chance does that once in twelve. */
const LEAST = 5;
const EXACT_TO = 10;

/** Coefficients of a product of two polynomials. */
function times(a: readonly number[], b: readonly number[]): number[] {
  const out = new Array<number>(a.length + b.length - 1).fill(0);
  a.forEach((x, i) => {
    b.forEach((y, j) => {
      out[i + j] += x * y;
    });
  });
  return out;
}
/** a ÷ b where it goes without rest. */
function over(a: readonly number[], b: readonly number[]): number[] {
  const rest = [...a];
  const out = new Array<number>(a.length - b.length + 1).fill(0);
  for (let i = 0; i < out.length; i++) {
    out[i] = rest[i] / b[0];
    for (let j = 0; j < b.length; j++) rest[i + j] -= out[i] * b[j];
  }
  return out;
}
/** 1 (1 + q) (1 + q + q²) … : how many orders of n different things have how many inversions. */
function inversions(n: number): number[] {
  let out = [1];
  for (let k = 2; k <= n; k++) out = times(out, new Array<number>(k).fill(1));
  return out;
}

/**
 * Whether levels rise or fall from attempt to attempt, whatever the steps between them are worth.
 * @formula S = Σ sign(x_j − x_i) over i < j; two-sided p exactly from the number of inversions of all orders of the same levels up to ten attempts (a Gaussian multinomial), above by the normal
 *   distribution with variance [n(n−1)(2n+5) − Σ t(t−1)(2t+5)] ÷ 18 and a step of 1 towards 0
 * @fails fewer than five attempts
 * @source Mann 1945; Kendall 1975; MacMahon 1916 for the multinomial
 * @example 0, 1, 2, 3, 3 without a fall: S = 9, p = 2 ÷ 60
 */
export function levelTrend(levels: readonly number[]): Told<LevelTrend> {
  const n = levels.length;
  if (n < LEAST) return tooFew(n, LEAST);
  let S = 0;
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) S += Math.sign(levels[j] - levels[i]);
  const ties = [...new Set(levels)].map((v) => levels.filter((l) => l === v).length);
  const isExact = n <= EXACT_TO;
  const p = isExact ? exact(S, n, ties) : normal(S, n, ties);
  return { given: { S, p, isExact, goes: p < 0.05 ? (S > 0 ? 'up' : 'down') : null } };
}

/** Orders of levels with the same ties, counted once: a cohort asks for thousands of trends of a few attempts each. */
const counted = new Map<string, readonly number[]>();
/** How many orders of n levels, so many of them tied, have how many inversions. */
function ordersOf(n: number, ties: readonly number[]): readonly number[] {
  const sizes = [...ties].sort((a, b) => a - b);
  const key = sizes.join(' ');
  const known = counted.get(key);
  if (known) return known;
  const counts = sizes.reduce<readonly number[]>((c, t) => over(c, inversions(t)), inversions(n));
  counted.set(key, counts);
  return counts;
}

function exact(S: number, n: number, ties: readonly number[]): number {
  const counts = ordersOf(n, ties);
  const pairs = counts.length - 1;
  const all = counts.reduce((a, b) => a + b, 0);
  // k inversions among pairs that are no ties: S = pairs − 2k.
  return counts.reduce((sum, c, k) => (Math.abs(pairs - 2 * k) >= Math.abs(S) ? sum + c : sum), 0) / all;
}

function normal(S: number, n: number, ties: readonly number[]): number {
  const variance = (n * (n - 1) * (2 * n + 5) - ties.reduce((s, t) => s + t * (t - 1) * (2 * t + 5), 0)) / 18;
  if (S === 0 || variance === 0) return 1;
  return 2 * (1 - normalChance((Math.abs(S) - 1) / Math.sqrt(variance)));
}
