import { seeded } from '../statistics/random.ts';
import type { CavityRecipe } from './cavity/recipe.ts';
import type { CrownRecipe } from './crown/recipe.ts';
import type { OnlayRecipe } from './onlay/recipe.ts';
import type { PartialRecipe } from './partial/recipe.ts';
import type { Recipe } from './recipe.ts';
import type { Sides } from './sides.ts';

/** Habits that come back from attempt to attempt, each 0 (absent) to 1 (always and strong). */
export interface Habits {
  readonly overTaperDistal?: number;
  readonly touchesMesial?: number;
  readonly shallowCusps?: number;
  readonly wideMargin?: number;
  /** The cutter is not seen behind the tooth: the margin stays narrow there. */
  readonly narrowDistal?: number;
}

export interface Hand {
  readonly seed: number;
  /** 0 beginner, 1 sure. */
  readonly skill: number;
  /** Share of the remaining error that each attempt removes. */
  readonly learning: number;
  readonly habits: Habits;
}

/** The exercise's aim, which the hand approximates. */
export type Task =
  | { readonly kind: 'crown'; readonly aim: CrownRecipe }
  | { readonly kind: 'cavity'; readonly aim: CavityRecipe }
  | { readonly kind: 'onlay'; readonly aim: OnlayRecipe }
  | { readonly kind: 'partial'; readonly aim: PartialRecipe };

/**
 * What a student's hand makes of a task at its nth attempt (0 first): the task's own figures, plus scatter that shrinks with
 * skill and practice, plus habits that shrink more slowly.
 */
export function byHand(hand: Hand, task: Task, attempt: number): Pick<Recipe, 'preparation' | 'neighbourDamage'> {
  const random = seeded(hand.seed * 131 + attempt * 17 + 5);
  const rest = (1 - hand.skill) * (1 - hand.learning) ** attempt;
  const draw: Draw = {
    wobble: (size) => size * rest * random.normal(),
    habit: (h) => (h ?? 0) * (1 - 0.5 * hand.learning) ** attempt,
  };
  const preparation = cutByHand(hand, task, draw);
  const touched = random.next() < draw.habit(hand.habits.touchesMesial);
  return { preparation, neighbourDamage: { mesial: touched ? 0.12 + 0.25 * random.next() : 0, distal: 0 } };
}

function cutByHand(hand: Hand, task: Task, draw: Draw): Recipe['preparation'] {
  switch (task.kind) {
    case 'crown':
      return crownByHand(hand, task.aim, draw);
    case 'cavity':
      return cavityByHand(hand, task.aim, draw);
    case 'onlay':
      return {
        ...task.aim,
        cover: crownByHand(hand, { ...task.aim.cover, kind: 'crown' }, draw),
        inside: cavityByHand(hand, { ...task.aim.inside, kind: 'cavity' }, draw),
      };
    case 'partial':
      return {
        ...task.aim,
        crown: crownByHand(hand, { ...task.aim.crown, kind: 'crown' }, draw),
        grooves: task.aim.grooves.map((g) => ({
          ...g,
          depth: at(g.depth + draw.wobble(0.3), 0.3, 1.3),
          leanOut: draw.wobble(6),
          leanFacial: draw.wobble(8),
        })),
      };
  }
}

interface Draw {
  wobble(size: number): number;
  habit(h: number | undefined): number;
}

const at = (v: number, lo: number, hi: number): number => Math.min(hi, Math.max(lo, v));

/** Degrees: the line angles, where a handpiece changes its stance. */
const TILTED_AT = [45, 135, 225, 315];

function crownByHand(hand: Hand, aim: CrownRecipe, { wobble, habit }: Draw): CrownRecipe {
  const shallow = 0.45 * habit(hand.habits.shallowCusps);
  const each = (s: Sides, make: (v: number, side: keyof Sides) => number): Sides => ({
    facial: make(s.facial, 'facial'),
    mesial: make(s.mesial, 'mesial'),
    lingual: make(s.lingual, 'lingual'),
    distal: make(s.distal, 'distal'),
  });
  return {
    ...aim,
    occlusal: {
      functional: at(aim.occlusal.functional + wobble(0.35) - shallow, 0.5, 2.4),
      nonFunctional: at(aim.occlusal.nonFunctional + wobble(0.3), 0.5, 2.2),
      elsewhere: at(aim.occlusal.elsewhere + wobble(0.3), 0.5, 2.2),
    },
    ...(aim.incisal === undefined ? {} : { incisal: at(aim.incisal + wobble(0.5), 0.8, 3) }),
    taper: each(aim.taper, (v, side) =>
      at(v + Math.abs(wobble(5)) + (side === 'distal' ? 9 * habit(hand.habits.overTaperDistal) : 0), 1.5, 16),
    ),
    margin: {
      ...aim.margin,
      width: each(aim.margin.width, (v, side) =>
        at(
          v + wobble(0.25) + 0.35 * habit(hand.habits.wideMargin) - (side === 'distal' ? 0.5 * habit(hand.habits.narrowDistal) : 0),
          0.2,
          1.5,
        ),
      ),
      height: each(aim.margin.height, (v) => at(v + wobble(0.3), 0.05, 1.5)),
      wander: Math.abs(wobble(0.08)),
    },
    planes: aim.planes.map((p) => ({ ...p, angle: at(p.angle + wobble(6), 8, 40), depth: at(p.depth + wobble(0.3), 0.3, 2) })),
    // The handpiece's tilt differs from side to side.
    tilts: [...aim.tilts, ...TILTED_AT.map((azimuth) => ({ azimuth, halfWidth: 30, lean: wobble(2.5) }))],
  };
}

function cavityByHand(hand: Hand, aim: CavityRecipe, { wobble, habit }: Draw): CavityRecipe {
  const o = aim.occlusal;
  const wide = 0.5 * habit(hand.habits.wideMargin);
  return {
    ...aim,
    occlusal: o && {
      ...o,
      isthmus: at(o.isthmus + Math.abs(wobble(0.4)) + wide, 0.8, 2.6),
      depth: at(o.depth + wobble(0.5) - 0.3 * habit(hand.habits.shallowCusps), 0.8, 3),
      tiltMesial: wobble(8),
      tiltFacial: wobble(5),
      dish: Math.abs(wobble(0.25)),
      walls: {
        facial: o.walls.facial + wobble(7),
        mesial: o.walls.mesial + wobble(5),
        lingual: o.walls.lingual + wobble(7),
        distal: o.walls.distal + wobble(5),
      },
    },
    boxes: aim.boxes.map((b) => ({
      ...b,
      width: at(b.width + wobble(0.5), 1.8, 4.4),
      axialDepth: at(b.axialDepth + wobble(0.35) + 0.5 * wide, 0.6, 2),
      overGingiva: at(b.overGingiva + wobble(0.4), 0.2, 2.6),
      facial: b.facial + wobble(6),
      lingual: b.lingual + wobble(6),
    })),
  };
}
