import type { Unit } from '../catalogue/terms.ts';
import type { Band } from '../score/verdict.ts';
import { normalChance } from '../statistics/beta.ts';

/** What a hand adds to what it means to do: standard deviations of depth and tilt from one step to the next. */
export interface HandError {
  readonly depth_mm: number;
  readonly tilt_deg: number;
}

/** A student some weeks into practice; a choice of ours, which a plan states and a course's own figures may replace. */
export const USUAL_HAND: HandError = { depth_mm: 0.15, tilt_deg: 2 };

/**
 * How often a hand that aims at a value ends inside a band: its errors taken as normal.
 * @formula Φ((hi − e) ÷ s) − Φ((lo − e) ÷ s)
 * @units share
 * @source the normal distribution
 * @example aimed at the middle of a band 0.3 wide with s 0.15: Φ(1) − Φ(−1) = 0.683
 */
export function shareInside(expected: number, s: number, { lo, hi }: Band): number {
  const below = (v: number | null, open: number): number => (v === null ? open : normalChance((v - expected) / s));
  return below(hi, 1) - below(lo, 0);
}

/** What a hand's error comes to in a reading: a depth's own, an angle's tilt; a convergence has two walls, each with its own. */
export const handOn = (reading: string, unit: Unit, hand: HandError): number =>
  unit !== 'deg' ? hand.depth_mm : reading.startsWith('toc') || reading === 'divergence' ? Math.SQRT2 * hand.tilt_deg : hand.tilt_deg;
