import type { Drift } from '#core/progress/drift.ts';
import type { Interval, Item } from '#core/progress/items.ts';

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
export const CONCERNS = ['lost', 'falling', 'absent', 'failing'] as const;
export interface ConcernView {
  readonly student: string;
  readonly name: string;
  readonly what: (typeof CONCERNS)[number];
  /** Skill or date that it is about. */
  readonly about: string;
  readonly attempt: number | null;
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
  /** Readings of the chosen skill against their bands. */
  readonly drift: { readonly days: readonly string[]; readonly chart: Drift } | null;
}
