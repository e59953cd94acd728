import type { Stat } from '../catalogue/terms.ts';
import type { Band } from './verdict.ts';

/**
 * What to do when a reading cannot be given: a person decides (`ask`, where nothing is said), the place is left out where the
 * tooth has none (`skip`; everything else is asked all the same), or it counts as the lowest level (`fail`).
 */
export const IF_NOT_READ = ['ask', 'skip', 'fail'] as const;
export type IfNotRead = (typeof IF_NOT_READ)[number];

/** Least share of an edge's length inside the band for full marks, one level down, two levels down. */
export interface AlongShares {
  readonly full: number;
  readonly fair: number;
  readonly poor: number;
}

export interface Target {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  /** Full marks. */
  readonly band: Band;
  /** One level down, and two; beyond the second it is the lowest level. */
  readonly fair: Band;
  readonly poor: Band;
  readonly ifNotRead?: IfNotRead;
  /** Only a reading by hand counts; what the scan says is shown beside it and decides nothing. */
  readonly evidence?: 'hand';
  /** The reading's curve is judged along its length instead of by one figure; see along.ts. */
  readonly along?: AlongShares;
  /** The standard's field that the band comes from. */
  readonly field?: string;
  /** Why the course's band differs from the field's; only where it does. */
  readonly own?: string;
}

/** What no reading tells and a person says in a word of the course's, such as “snaps”, “loose” or “catches”. */
export interface Question {
  readonly question: string;
  /** Each word with its level, best first. */
  readonly words: readonly { readonly level: LevelNumber; readonly word: string }[];
}

export interface Criterion {
  readonly id: string;
  readonly title: string;
  readonly weight: number;
  /** Reason for the band, in one line. */
  readonly why: string;
  /** Empty where a person is asked instead. */
  readonly targets: readonly Target[];
  readonly asks?: Question;
  /** The standard's field that a question comes from; targets name their own. */
  readonly field?: string;
}

export interface CriticalError {
  readonly id: string;
  readonly title: string;
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  /** Beyond this band the error is made. */
  readonly allowed: Band;
  readonly ifNotRead?: IfNotRead;
  readonly field?: string;
  readonly effect:
    | { readonly kind: 'fail' }
    | { readonly kind: 'cap'; readonly at: number }
    | { readonly kind: 'deduct'; readonly points: number };
}

export type LevelNumber = 0 | 1 | 2 | 3;

export interface Level {
  readonly level: LevelNumber;
  readonly word: string;
  readonly share: number;
}

/**
 * How levels become a result. `levels`: weights times each level's share. `deduct`: from 100, so many points per level and unit
 * of weight. `examination`: levels are read as meets, minor, major, critical, and so many of each may be made; the figure is that
 * of `levels`. The pass mark and the critical errors' caps hold in all three.
 */
export type Scoring =
  | { readonly kind: 'levels' }
  | { readonly kind: 'deduct'; readonly off: { readonly sound: number; readonly marginal: number; readonly notYet: number } }
  | { readonly kind: 'examination'; readonly minor: number; readonly major: number };

export interface Rubric {
  readonly format: 'veritor-rubric/1';
  readonly id: string;
  readonly name: string;
  readonly standard: string;
  readonly levels: readonly Level[];
  readonly passMark: number;
  /** `levels` when not given. */
  readonly scoring?: Scoring;
  /** The preparation covers only some cusps: targets with `skip` are skipped at uncovered cusps. */
  readonly partial?: boolean;
  readonly criteria: readonly Criterion[];
  readonly critical: readonly CriticalError[];
}
