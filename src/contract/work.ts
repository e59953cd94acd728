import * as v from 'valibot';
import type { Judged } from '#core/progress/self-assessment.ts';
import type { DrillItem } from './kit.ts';
import type { PracticeView } from './progress-view.ts';
import type { AttemptReport } from './report.ts';
import type { BenchView } from './views.ts';

const OwnLine = v.object({
  line: v.pipe(v.string(), v.maxLength(100)),
  level: v.nullable(v.picklist([0, 1, 2, 3])),
  figure: v.nullable(v.pipe(v.number(), v.finite())),
});
export type OwnLine = v.InferOutput<typeof OwnLine>;

/** What a student says of their own attempt; without lines, that they would rather not judge it. */
export const SelfForm = v.object({
  lines: v.pipe(v.array(OwnLine), v.maxLength(60)),
  minutes: v.nullable(
    v.pipe(
      v.number('Give the minutes as a number.'),
      v.integer('Whole minutes.'),
      v.minValue(1, 'At least 1 minute.'),
      v.maxValue(600, 'At most 600 minutes.'),
    ),
  ),
});
export type SelfForm = v.InferOutput<typeof SelfForm>;

export const Practised = v.object({
  course: v.pipe(v.string(), v.maxLength(100)),
  skill: v.pipe(v.string(), v.minLength(1), v.maxLength(200)),
});

/** One line that a student is asked to judge. */
export interface OwnQuestion {
  readonly id: string;
  readonly title: string;
  readonly why: string;
  readonly words: readonly { readonly level: number; readonly word: string }[];
  /** Unit and place of what decides it, where that can be measured by hand; null where not. */
  readonly byHand: { readonly words: string; readonly unit: string } | null;
}

export interface OwnAttempt {
  readonly id: number;
  readonly exercise: string;
  readonly exercise_id: string;
  readonly sitting: string;
  readonly held_on: string;
  readonly tooth: string;
  readonly number: number;
  /** Nothing handed in yet, being measured, waiting for its grade, back, or back and looked at. */
  readonly state: 'open' | 'measuring' | 'grading' | 'back' | 'seen';
  /** Only of what was looked at. */
  readonly total: number | null;
  readonly passed: boolean | null;
}

/** What a student sees of one attempt of theirs. */
export interface WorkView {
  readonly attempt: OwnAttempt;
  readonly course: string;
  readonly student: string;
  readonly questions: readonly OwnQuestion[];
  readonly own: SelfForm | null;
  /** Released, and their own judgement is in: what is said of it, the same as on paper, and the view that its places are drawn from. */
  readonly report: AttemptReport | null;
  readonly result: BenchView | null;
  readonly practice: readonly PracticeView[];
  /** A drill for each criterion that has one. */
  readonly drills: Readonly<Record<string, DrillItem>>;
}

/** How somebody judges their own work, against what was signed. */
export interface SelfView {
  /** In levels, over all lines that they judged. */
  readonly levels: Judged | null;
  readonly judged: number;
  /** By what they measured themselves: figures of one reading. */
  readonly figures: readonly { readonly title: string; readonly unit: string; readonly judged: Judged }[];
}

/** A student's first page. */
export interface OwnDay {
  readonly attempts: readonly OwnAttempt[];
  readonly coming: readonly {
    readonly id: string;
    readonly title: string;
    readonly held_on: string;
    readonly starts_at: string | null;
    readonly room: string | null;
    readonly course: string;
    readonly exercise: string;
    /** It is held today, or was a few days ago and nothing was begun. */
    readonly now: boolean;
  }[];
}
