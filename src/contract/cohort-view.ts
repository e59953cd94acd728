import * as v from 'valibot';
import type { Drift } from '#core/progress/drift.ts';
import type { Interval, Item } from '#core/progress/items.ts';
import type { Limits } from '#core/progress/limits.ts';

/** One student at one skill: the newest level, the mean of the last three, whether it is mastered, and the attempt that it rests on. */
export interface HeatCell {
  readonly skill: string;
  readonly last: number | null;
  readonly mean: number | null;
  readonly isMastered: boolean;
  readonly attempts: number;
  readonly attempt: number;
}
export interface HeatRow {
  readonly student: string;
  readonly name: string;
  readonly bench: string | null;
  readonly group: string | null;
  readonly cells: readonly HeatCell[];
}
export interface ItemView extends Item {
  readonly title: string;
  /** All attempts have the same level, or it never decided anything. */
  readonly never: 'varies' | null;
}
export const CONCERNS = ['lost', 'falling', 'absent', 'failing', 'misjudges', 'time'] as const;
export interface ConcernView {
  readonly student: string;
  readonly name: string;
  readonly what: (typeof CONCERNS)[number];
  /** Skill, date or figure that it is about. */
  readonly about: string;
  readonly attempt: number | null;
  /** What was said about it, and by whom; null where nothing was. */
  readonly aside: { readonly note: string; readonly by: string } | null;
}
/** Values that decided one criterion, over its newest band. */
export interface SpreadView {
  readonly line: string;
  readonly title: string;
  readonly unit: string | null;
  readonly values: readonly number[];
  readonly lo: number | null;
  readonly hi: number | null;
}
/** A figure of a tool that should not move when students change. */
export interface ToolView {
  readonly tool: 'alignment' | 'neighbour';
  readonly days: readonly string[];
  readonly chart: Drift | null;
}
/** How a course's students do at the skills that its exercises ask for. */
export interface CohortView {
  readonly skills: readonly { readonly key: string; readonly title: string; readonly students: number }[];
  readonly rows: readonly HeatRow[];
  readonly exercises: readonly { readonly id: string; readonly title: string; readonly attempts: number }[];
  readonly groups: readonly string[];
  readonly concerns: readonly ConcernView[];
  /** For the chosen exercise: difficulty and discrimination of its criteria, and how far they rank attempts alike. */
  readonly items: readonly ItemView[] | null;
  readonly alpha: Interval | null;
  /** For the chosen exercise: what decided each of its criteria, against its band. */
  readonly spread: readonly SpreadView[];
  readonly limits: Limits;
  /** Tools whose figures are watched day by day; without a chart where there are too few days. */
  readonly drift: readonly ToolView[];
  /** Whoever graded here, to look at one's attempts alone. */
  readonly graders: readonly { readonly id: string; readonly name: string }[];
}

const rate = v.pipe(v.number('Give a share.'), v.minValue(0.01, 'At least 1 %.'), v.maxValue(0.9, 'At most 90 %.'));
export const LimitsForm = v.pipe(
  v.object({ acceptable: rate, unacceptable: rate }),
  v.check((l) => l.unacceptable >= l.acceptable + 0.05, 'The unacceptable rate has to lie 5 % or more above the acceptable one.'),
);
export const ConcernNote = v.object({
  student: v.pipe(v.string(), v.maxLength(100)),
  what: v.picklist(CONCERNS),
  about: v.pipe(v.string(), v.maxLength(200)),
  attempt: v.nullable(v.pipe(v.number(), v.integer())),
  note: v.pipe(v.string(), v.trim(), v.minLength(1, 'Say what was done about it.'), v.maxLength(400, 'At most 400 letters.')),
});
