import { type ChartLimits, chanceWithin, limitFor, lossLimitFor } from './competence.ts';

/** Share of wrong declarations, and the attempts that it holds for. */
const ERROR = 0.05;
const WITHIN = 12;

export interface Limits extends ChartLimits {
  /** Chance that somebody who fails at the unacceptable rate, and at the acceptable one, is called a master within so many attempts. */
  readonly chanceFailing: number;
  readonly chanceSound: number;
  readonly within: number;
}

/**
 * Limits of the charts for two failure rates, with both chances.
 * @example 0.10 and 0.30: ten clean successes; 4.5 % and 41.8 % within twelve attempts
 */
export function limitsFor(p0: number, p1: number): Limits {
  const limits = { p0, p1, h: limitFor(p0, p1, ERROR, WITHIN), hLoss: lossLimitFor(p0, p1, ERROR, WITHIN) };
  return { ...limits, within: WITHIN, chanceFailing: chanceWithin(WITHIN, p1, limits), chanceSound: chanceWithin(WITHIN, p0, limits) };
}

/** Until a course sets its own. */
export const USUAL_LIMITS = limitsFor(0.1, 0.3);
