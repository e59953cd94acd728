import { seeded } from '../statistics/random.ts';
import { CLEAN_CROWN, type CrownRecipe, type Recipe } from './recipe.ts';

/** Habits that come back from attempt to attempt, each 0 (absent) to 1 (always and strong). */
export interface Habits {
  readonly overTaperDistal?: number;
  readonly touchesMesial?: number;
  readonly shallowCusps?: number;
  readonly wideMargin?: number;
}

export interface Hand {
  readonly seed: number;
  /** 0 beginner, 1 sure. */
  readonly skill: number;
  /** How much of the remaining error goes with each attempt. */
  readonly learning: number;
  readonly habits: Habits;
}

/**
 * What a student's hand makes of the zirconia exercise at its nth attempt (0 first): targets, plus scatter that shrinks
 * with skill and practice, plus habits that shrink more slowly.
 */
export function crownByHand(hand: Hand, attempt: number): { preparation: CrownRecipe; neighbourDamage: Recipe['neighbourDamage'] } {
  const random = seeded(hand.seed * 131 + attempt * 17 + 5);
  const rest = (1 - hand.skill) * (1 - hand.learning) ** attempt;
  const habit = (h: number | undefined): number => (h ?? 0) * (1 - 0.5 * hand.learning) ** attempt;
  const wobble = (size: number): number => size * rest * random.normal();
  const at = (v: number, lo: number, hi: number): number => Math.min(hi, Math.max(lo, v));
  const shallow = 0.45 * habit(hand.habits.shallowCusps);
  const lean = (target: number): number => at(target + Math.abs(wobble(5)), 1.5, 16);
  const width = (target: number): number => at(target + wobble(0.25) + 0.35 * habit(hand.habits.wideMargin), 0.2, 1.3);
  const height = (target: number): number => at(target + wobble(0.3), 0.05, 1.5);
  const preparation: CrownRecipe = {
    ...CLEAN_CROWN,
    occlusal: {
      functional: at(1.25 + wobble(0.35) - shallow, 0.5, 2.2),
      nonFunctional: at(1.1 + wobble(0.3), 0.5, 2),
      elsewhere: at(1.1 + wobble(0.3), 0.5, 2),
    },
    taper: { facial: lean(4), mesial: lean(3.5), lingual: lean(4), distal: lean(4 + 9 * habit(hand.habits.overTaperDistal)) },
    margin: {
      ...CLEAN_CROWN.margin,
      width: { facial: width(0.6), mesial: width(0.55), lingual: width(0.55), distal: width(0.55) },
      height: { facial: height(0.5), mesial: height(0.45), lingual: height(0.5), distal: height(0.45) },
      wander: Math.abs(wobble(0.08)),
    },
  };
  const touched = random.next() < habit(hand.habits.touchesMesial);
  return { preparation, neighbourDamage: { mesial: touched ? 0.12 + 0.25 * random.next() : 0, distal: 0 } };
}
