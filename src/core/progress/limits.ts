import { type ChartLimits, chanceWithin, limitFor, lossLimitFor } from './competence.ts';

/** Failure rates that are acceptable and that are not, the share of wrong declarations, and the attempts that it holds for. */
const RATES = { p0: 0.1, p1: 0.3, error: 0.05, within: 12 } as const;
/** Limits of the charts until a course sets its own. */
export const LIMITS: ChartLimits = {
  p0: RATES.p0,
  p1: RATES.p1,
  h: limitFor(RATES.p0, RATES.p1, RATES.error, RATES.within),
  hLoss: lossLimitFor(RATES.p0, RATES.p1, RATES.error, RATES.within),
};
/** How often the chart is wrong and how often right within so many attempts. */
export const CHANCES = {
  within: RATES.within,
  chanceFailing: chanceWithin(RATES.within, RATES.p1, LIMITS),
  chanceSound: chanceWithin(RATES.within, RATES.p0, LIMITS),
};
