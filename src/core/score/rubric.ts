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

export interface Rubric {
  readonly format: 'veritor-rubric/1';
  readonly id: string;
  readonly name: string;
  readonly standard: string;
  readonly levels: readonly Level[];
  readonly passMark: number;
  readonly criteria: readonly Criterion[];
  readonly critical: readonly CriticalError[];
}
