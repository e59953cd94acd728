import { quantile } from '../statistics/quantile.ts';
import { seeded } from '../statistics/random.ts';
import { type Told, tooFew } from './told.ts';

/** Log odds of a success at the first attempt, and what each further one adds, over a cohort: mean and covariance. */
export interface Prior {
  readonly mean: readonly [number, number];
  /** Variance of the start, covariance, variance of the slope. */
  readonly cov: readonly [number, number, number];
}

export interface StillNeeded {
  /** Further attempts until P(success) is 0.8; Infinity for more than twenty. */
  readonly median: number;
  readonly lo: number;
  readonly hi: number;
}

const LEAST = 4;
const WANTED = 0.8;
const FARTHEST = 20;
const MOST = 120;
const DRAWS = 2000;
/** A cohort of few tells little: this much scatter is left in any case. */
const FLOOR = 0.02;
const WIDE: Prior = { mean: [0, 0.1], cov: [2, 0, 0.05] };

const invert = ([a, b, d]: readonly [number, number, number]): [number, number, number] => {
  const det = a * d - b * b;
  return [d / det, -b / det, a / det];
};
const logistic = (x: number): number => 1 / (1 + Math.exp(-x));

/** Mode and covariance of one student's start and slope, given the cohort's. */
function mode(outcomes: readonly boolean[], prior: Prior): { at: [number, number]; cov: [number, number, number] } {
  const inv = invert(prior.cov);
  let [a, b] = prior.mean;
  let H: [number, number, number] = [...inv];
  for (let round = 0; round < 30; round++) {
    let [ga, gb] = [
      -inv[0] * (a - prior.mean[0]) - inv[1] * (b - prior.mean[1]),
      -inv[1] * (a - prior.mean[0]) - inv[2] * (b - prior.mean[1]),
    ];
    H = [...inv];
    outcomes.forEach((ok, x) => {
      const p = logistic(a + b * x);
      ga += Number(ok) - p;
      gb += (Number(ok) - p) * x;
      const w = p * (1 - p);
      H = [H[0] + w, H[1] + w * x, H[2] + w * x * x];
    });
    const C = invert(H);
    const step = [C[0] * ga + C[1] * gb, C[1] * ga + C[2] * gb];
    a += step[0];
    b += step[1];
    if (Math.abs(step[0]) + Math.abs(step[1]) < 1e-9) break;
  }
  return { at: [a, b], cov: invert(H) };
}

/** Mean and covariance of the cohort's starts and slopes, from each student's outcomes in order. @source empirical Bayes with Laplace's approximation, Breslow and Clayton 1993 */
export function cohortPrior(students: readonly (readonly boolean[])[], rounds = 15): Prior {
  // Beyond some dozens more students do not move what is known of the cohort.
  const told = students.filter((s) => s.length >= 2).slice(0, MOST);
  if (told.length < 5) return WIDE;
  let prior: Prior = WIDE;
  for (let round = 0; round < rounds; round++) {
    const modes = told.map((s) => mode(s, prior));
    const n = modes.length;
    const mean: [number, number] = [modes.reduce((s, m) => s + m.at[0], 0) / n, modes.reduce((s, m) => s + m.at[1], 0) / n];
    const cov = modes.reduce(
      ([aa, ab, bb], m) => {
        const [da, db] = [m.at[0] - mean[0], m.at[1] - mean[1]];
        return [aa + (da * da + m.cov[0]) / n, ab + (da * db + m.cov[1]) / n, bb + (db * db + m.cov[2]) / n];
      },
      [0, 0, 0],
    );
    prior = { mean, cov: [cov[0] + FLOOR, cov[1], cov[2] + FLOOR / 10] };
  }
  return prior;
}

/**
 * Attempts that are still needed until a student succeeds four times in five.
 * @formula log odds of success a + b (n − 1), student's a and b with the cohort's mean and covariance as prior, Laplace's approximation; median and 80 % interval of the first attempt from now
 *   with P ≥ 0.8 over seeded draws
 * @fails fewer than four attempts
 * @source Breslow and Clayton 1993
 */
export function stillNeeded(outcomes: readonly boolean[], prior: Prior, seed = 1): Told<StillNeeded> {
  const n = outcomes.length;
  if (n < LEAST) return tooFew(n, LEAST);
  const { at, cov } = mode(outcomes, prior);
  const random = seeded(seed);
  // Cholesky of two by two.
  const l11 = Math.sqrt(cov[0]);
  const l21 = cov[1] / l11;
  const l22 = Math.sqrt(Math.max(0, cov[2] - l21 * l21));
  const wanted = Math.log(WANTED / (1 - WANTED));
  const needed: number[] = [];
  for (let i = 0; i < DRAWS; i++) {
    const [z1, z2] = [random.normal(), random.normal()];
    const [a, b] = [at[0] + l11 * z1, at[1] + l21 * z1 + l22 * z2];
    let k = 0;
    while (k <= FARTHEST && a + b * (n + k - 1) < wanted) k++;
    // Counted from the attempt that was made last: none where it already was so likely.
    needed.push(k);
  }
  const told = (q: number): number => {
    const v = Math.round(quantile(needed, q));
    return v > FARTHEST ? Infinity : v;
  };
  return { given: { median: told(0.5), lo: told(0.1), hi: told(0.9) } };
}
