import type { Habit } from '#core/progress/habit.ts';
import type { Limits } from '#core/progress/limits.ts';
import type { NextPractice } from '#core/progress/next-practice.ts';
import type { Skill, SkillPoint } from '#core/progress/skill.ts';
import type { DrillItem } from './kit.ts';

export interface SkillPointView extends SkillPoint {
  readonly heldOn: string;
  readonly exercise: string;
  readonly tooth: string;
  readonly zone: string | null;
  /** The second or a later attempt of the same sitting. */
  readonly isRepeat: boolean;
  /** Minutes at work, as the student gave them. */
  readonly minutes: number | null;
}

export interface SkillView {
  readonly key: string;
  readonly title: string;
  readonly unit: string | null;
  readonly points: readonly SkillPointView[];
  readonly skill: Skill;
}

export interface HabitView {
  readonly reading: string;
  readonly title: string;
  readonly unit: string;
  /** Against what the cohort does on the same exercises. */
  readonly own: Habit;
  /** Corrected for all readings that were looked at. */
  readonly p: number;
  readonly isTold: boolean;
  readonly frame: 'tooth' | 'bench' | null;
  /** Bin at which everyone errs alike, so that it is no habit of this student's; null where nothing returns. */
  readonly everyones: number | null;
}

/** An error that is made all round, more than others make it. */
export interface AllRoundView {
  readonly reading: string;
  readonly title: string;
  readonly unit: string;
  readonly size: number;
  readonly p: number;
  readonly times: number;
  readonly of: number;
}

export interface PracticeView extends NextPractice {
  readonly drill: DrillItem | null;
  readonly on: string;
  /** Days on which the student says they practised it since. */
  readonly done: readonly string[];
}

/** A student's progress over the attempts that whoever asks may see. */
export interface ProgressView {
  readonly attempts: number;
  readonly errors: readonly {
    readonly title: string;
    readonly times: number;
    readonly of: number;
    readonly last: string;
    readonly attempt: number;
  }[];
  readonly repeated: readonly {
    readonly title: string;
    readonly times: number;
    readonly of: number;
    readonly zone: string | null;
    readonly attempt: number;
  }[];
  readonly practice: readonly PracticeView[];
  readonly skills: readonly SkillView[];
  readonly habits: readonly HabitView[];
  readonly allRound: readonly AllRoundView[];
  readonly limits: Limits;
}
