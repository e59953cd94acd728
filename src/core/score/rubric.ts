import type { Stat } from '../result/reading.ts';
import type { Band } from './verdict.ts';

export interface Target {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  /** Full marks. */
  readonly band: Band;
  /** One level down, and two; beyond the second it is the lowest level. */
  readonly fair: Band;
  readonly poor: Band;
}

export interface Criterion {
  readonly id: string;
  readonly title: string;
  readonly weight: number;
  /** Why the band is what it is, in one line. */
  readonly why: string;
  readonly targets: readonly Target[];
}

export interface CriticalError {
  readonly id: string;
  readonly title: string;
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  /** Beyond this band the error is made. */
  readonly allowed: Band;
  readonly effect:
    | { readonly kind: 'fail' }
    | { readonly kind: 'cap'; readonly at: number }
    | { readonly kind: 'deduct'; readonly points: number };
}

export interface Level {
  readonly level: 0 | 1 | 2 | 3;
  readonly word: string;
  readonly share: number;
}

/**
 * How levels become a result. `levels`: weights times each level's share. `deduct`: from 100, so many points a level and unit of
 * weight. `examination`: levels are read as meets, minor, major, critical, and so many of each may be made; the figure is that of `levels`.
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
  /** The preparation covers only some cusps: what it leaves as it was is not asked for. */
  readonly partial?: boolean;
  readonly criteria: readonly Criterion[];
  readonly critical: readonly CriticalError[];
}
