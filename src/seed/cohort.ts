import type { CavityRecipe } from '#core/simulate/cavity/recipe.ts';
import type { FaultRecipe } from '#core/simulate/faults/faults.ts';
import { byHand, type Hand, type Task } from '#core/simulate/hand.ts';
import { defaultRecipe, type Recipe } from '#core/simulate/recipe.ts';
import { withFaults } from '#core/simulate/spoil.ts';
import { type Random, seeded } from '#core/statistics/random.ts';
import { EXERCISES, type Exercise, handOf, SITTINGS, type Sitting, STUDENTS } from './cast.ts';

/** One preparation of the weeks before: whose, when, and what the hand made of it. */
export interface PastWork {
  readonly student: string;
  readonly sitting: string;
  readonly exercise: string;
  /** 2 for work that was done again in the same sitting. */
  readonly number: number;
  /** Preparations of the same kind that the student had made before. */
  readonly earlier: number;
  readonly faults: readonly FaultRecipe[];
  readonly seed: number;
}

const exerciseOf = (s: Sitting): Exercise => EXERCISES.find((e) => e.id === s.exercise) as Exercise;
const weekOf = (s: Sitting): number => Number(/-w(\d)$/.exec(s.id)?.[1]);
export const PAST_SITTINGS = SITTINGS.filter((s) => weekOf(s) < 6);

/** Share of students who are away, who do it again, and chance of a gross slip for a hand without any skill. */
const AWAY = 0.06;
const AGAIN = 0.07;
const SLIP = 0.5;
const LEAST_SLIP = 0.1;
/** In the first weeks nobody is as sure, or learns as fast, as on the bench today: shares of the hand's own skill and learning. */
const SKILL_THEN = 0.4;
const LEARNING_THEN = 0.3;

/** What is left of a hand's error on an exercise that was shown step by step before (under 1) or not shown at all (over 1). */
const SHOWN: Readonly<Record<string, number>> = {
  'inlay-46': 0.7,
  'crown-22': 0.5,
  'crown-11': 0.75,
  'three-quarter-13': 0.46,
  'metal-47': 1.55,
  'crown-15': 2.5,
  'crown-14': 1.4,
  'crown-25': 1.75,
  'layered-26': 1.45,
  'lithium-36': 1.2,
  'class1-37-converging': 1.4,
};

export function handThen(student: string, exercise: string): Hand {
  const hand = handOf(student);
  const left = (1 - SKILL_THEN * hand.skill) * (SHOWN[exercise] ?? 1);
  return { ...hand, skill: 1 - left, learning: LEARNING_THEN * hand.learning };
}

type Slip = (r: Random, task: Task) => FaultRecipe;
const side = (r: Random): string => (r.next() < 0.6 ? 'mesial' : 'distal');
const sized =
  (fault: FaultRecipe['fault'], lo: number, hi: number, at?: (r: Random, task: Task) => string): Slip =>
  (r, task) => ({
    fault,
    size: r.between(lo, hi),
    ...(at ? { at: at(r, task) } : {}),
  });
const cavityOf = (task: Task): CavityRecipe | null => ('boxes' in task.aim ? task.aim : null);
const boxSide = (_r: Random, task: Task): string => cavityOf(task)?.boxes[0]?.side ?? 'mesial';

/** What goes wrong now and then and cannot be put right, by kind. */
const SLIPS: Readonly<Record<Task['kind'], readonly Slip[]>> = {
  crown: [
    sized('neighbour', 0.09, 0.4, side),
    sized('neighbour', 0.09, 0.2, side),
    sized('lip', 0.2, 0.35),
    sized('contact-left', 0.2, 0.4, side),
    sized('margin-below', 0.6, 1),
    sized('undercut', 3, 6),
    sized('over-reduced', 0.8, 1.3),
    sized('flat-top', 0.6, 1),
    sized('whole-tilt', 5, 8),
    sized('line-angle', 0.25, 0.4),
  ],
  cavity: [
    sized('too-deep', 0.9, 1.6),
    sized('undermined-enamel', 10, 18),
    sized('thin-ridge', 0.15, 0.3, () => 'distal'),
    sized('dished-floor', 0.2, 0.35),
    sized('neighbour', 0.12, 0.4, boxSide),
  ],
  onlay: [sized('neighbour', 0.12, 0.4, side), sized('lip', 0.2, 0.35)],
  partial: [sized('neighbour', 0.12, 0.4, side), sized('whole-tilt', 4, 7)],
};
/** Slips that need a box. */
const BOX_SLIPS: readonly Slip[] = [
  sized('closed-contact', 0.5, 0.9, boxSide),
  sized('gingival-contact', 0.4, 0.8, boxSide),
  sized('flared-wall', 12, 18, boxSide),
];

function slipsOf(task: Task, r: Random, rest: number): FaultRecipe[] {
  if (r.next() > LEAST_SLIP + SLIP * rest) return [];
  const cavity = cavityOf(task);
  const hasBox = cavity !== null && cavity.boxes.length > 0;
  const usual = cavity && !hasBox ? SLIPS.cavity.slice(0, 4) : cavity && !cavity.occlusal ? SLIPS.cavity.slice(4) : SLIPS[task.kind];
  const list = hasBox ? [...usual, ...BOX_SLIPS] : usual;
  return [list[Math.floor(r.next() * list.length)](r, task)];
}

/** All work of the weeks before, the same on every machine, in the order of the sittings. */
export function pastWork(): PastWork[] {
  const made = new Map<string, number>();
  return PAST_SITTINGS.flatMap((s, i): PastWork[] => {
    const e = exerciseOf(s);
    return STUDENTS.filter((p) => !s.benches || s.benches.some((b) => p.bench.startsWith(b))).flatMap((p, k): PastWork[] => {
      const r = seeded(7919 * (i + 1) + 31 * (k + 1) + Number(p.id.slice(1)));
      if (r.next() < AWAY) return [];
      const times = e.task && r.next() < AGAIN ? 2 : 1;
      return Array.from({ length: times }, (_, n) => {
        const key = `${p.id} ${e.kind}`;
        const earlier = made.get(key) ?? 0;
        made.set(key, earlier + 1);
        const hand = handThen(p.id, e.id);
        const rest = (1 - hand.skill) * (1 - hand.learning) ** earlier;
        return {
          student: p.id,
          sitting: s.id,
          exercise: e.id,
          number: n + 1,
          earlier,
          faults: e.task ? slipsOf(e.task, r, rest) : [],
          seed: 1000 * (i + 1) + 10 * Number(p.id.slice(1)) + n,
        };
      });
    });
  });
}

/** What the student's hand made of the exercise, ready to be cut and scanned. */
export function recipeOf(work: Pick<PastWork, 'student' | 'exercise' | 'earlier' | 'faults'>): Recipe {
  const e = EXERCISES.find((q) => q.id === work.exercise);
  if (!e?.task) throw new RangeError(`there is nothing to cut for ${work.exercise}`);
  const base = defaultRecipe(e.tooth, 1);
  return withFaults({
    ...base,
    ...byHand(handThen(work.student, e.id), e.task, work.earlier),
    faults: work.faults,
    scan: { ...base.scan, triangles: 110_000 },
  });
}
