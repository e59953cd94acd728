/** Failure rates that are acceptable and that are not, and the heights at which the two charts signal. */
export interface ChartLimits {
  readonly p0: number;
  readonly p1: number;
  /** Height at which somebody counts as competent. */
  readonly h: number;
  /** Height at which the loss of it is told. */
  readonly hLoss: number;
}

export interface Competence {
  /** Height of the chart after each attempt, from its last zero. */
  readonly heights: readonly number[];
  /** Attempt (from 1) after which competence was declared first; null while it was not. */
  readonly since: number | null;
  /** Attempt after which it was lost again; null where it was not. */
  readonly lost: number | null;
  readonly isCompetent: boolean;
}

/**
 * What one success adds to the chart and one failure takes from it.
 * @formula success ln((1 − p₀) ÷ (1 − p₁)), failure ln(p₀ ÷ p₁)
 * @example p₀ = 0.10, p₁ = 0.30: +0.2513, −1.0986
 */
export const weights = (p0: number, p1: number): { success: number; failure: number } => ({
  success: Math.log((1 - p0) / (1 - p1)),
  failure: Math.log(p0 / p1),
});

/**
 * Getting there and staying there: a chart of evidence for the acceptable failure rate against the unacceptable one, and after it has signalled one the other way round.
 * @formula S = max(0, S + w), signal at S ≥ h; afterwards L = max(0, L − w), signal at L ≥ h'; a loss begins the first again
 * @source Page 1954; Biau and others 2010 for the chart of learning
 */
export function competence(outcomes: readonly boolean[], l: ChartLimits): Competence {
  const w = weights(l.p0, l.p1);
  const heights: number[] = [];
  let [S, since, lost]: [number, number | null, number | null] = [0, null, null];
  let isStaying = false;
  outcomes.forEach((ok, i) => {
    const step = ok ? w.success : w.failure;
    S = Math.max(0, S + (isStaying ? -step : step));
    heights.push(S);
    // A lattice sum that should be h may lie a rounding error under it.
    if (!isStaying && S >= l.h - 1e-9) {
      since ??= i + 1;
      lost = null;
      isStaying = true;
      S = 0;
    } else if (isStaying && S >= l.hLoss - 1e-9) {
      lost = i + 1;
      isStaying = false;
      S = 0;
    }
  });
  return { heights, since, lost, isCompetent: isStaying };
}

/** Largest error of a weight that is made a whole number of steps. */
const ROUNDING = 1e-4;

/** Both weights as whole multiples of one step. */
function lattice(p0: number, p1: number): { up: number; down: number; step: number } {
  const { success, failure } = weights(p0, p1);
  for (let up = 1; up < 50_000; up++) {
    const step = success / up;
    const down = Math.round(-failure / step);
    if (Math.abs(down * step + failure) < ROUNDING) return { up, down, step };
  }
  throw new RangeError('the weights have no common step');
}

/** Chance that a chart on a lattice, which rises by `up` with a chance and else falls by `down` but never below 0, reaches the top within N steps. */
function reaches(attempts: number, chance: number, up: number, down: number, top: number): number {
  let now = new Float64Array(top);
  now[0] = 1;
  let reached = 0;
  for (let n = 0; n < attempts; n++) {
    const next = new Float64Array(top);
    for (let s = 0; s < top; s++) {
      if (now[s] === 0) continue;
      if (s + up >= top) reached += now[s] * chance;
      else next[s + up] += now[s] * chance;
      next[Math.max(0, s - down)] += now[s] * (1 - chance);
    }
    now = next;
  }
  return reached;
}
const topOf = (h: number, step: number): number => Math.ceil(h / step - 1e-9);

/**
 * Chance that somebody who fails at a rate is declared competent within so many attempts.
 * @formula the chart as a Markov chain on a lattice of its heights, the signal an end; distribution after N steps
 * @fails never; weights are made whole multiples of a step with an error under 1e-4
 * @source Brook and Evans 1972
 * @example p₀ 0.10, p₁ 0.30, h 2.5, N 12: 0.0452 at a failure rate of 0.30, 0.418 at 0.10
 */
export function chanceWithin(attempts: number, failing: number, { p0, p1, h }: Pick<ChartLimits, 'p0' | 'p1' | 'h'>): number {
  const { up, down, step } = lattice(p0, p1);
  return reaches(attempts, 1 - failing, up, down, topOf(h, step));
}

/** Chance that the loss of competence is told within so many attempts of somebody who fails at a rate. */
export function chanceOfLossWithin(attempts: number, failing: number, { p0, p1, hLoss }: Pick<ChartLimits, 'p0' | 'p1' | 'hLoss'>): number {
  const { up, down, step } = lattice(p0, p1);
  return reaches(attempts, failing, down, up, topOf(hLoss, step));
}

/**
 * The least height at which those who fail at p₁ are declared competent within so many attempts by at most the given chance.
 * @example 5 % in 12 at 0.10 and 0.30: ten clean successes, 2.513
 */
export function limitFor(p0: number, p1: number, error = 0.05, attempts = 12): number {
  const { success } = weights(p0, p1);
  for (let clean = 1; clean <= attempts; clean++) {
    const h = clean * success;
    if (chanceWithin(attempts, p1, { p0, p1, h }) <= error) return h;
  }
  // Not even a clean row is evidence enough within so many attempts.
  return (attempts + 1) * success;
}

/** The least height at which of those who fail at p₀ at most the given share are told a loss within so many attempts: whole failures in a row. */
export function lossLimitFor(p0: number, p1: number, error = 0.05, attempts = 12): number {
  const { failure } = weights(p0, p1);
  for (let failures = 1; failures <= attempts; failures++) {
    const hLoss = -failures * failure;
    if (chanceOfLossWithin(attempts, p0, { p0, p1, hLoss }) <= error) return hLoss;
  }
  return -(attempts + 1) * failure;
}
