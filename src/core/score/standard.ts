import type { Stat } from '../catalogue/terms.ts';
import type { CriticalError, IfNotRead, Question } from './rubric.ts';
import type { Band } from './verdict.ts';

interface Place {
  readonly id: string;
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: string;
  /** The school whose standard it is, or a choice that a course makes where schools say nothing. */
  readonly from: 'school' | 'course';
  readonly ifNotRead?: IfNotRead;
}

/** One figure of a standard. */
export interface StandardField extends Place {
  readonly band: Band;
  /** Judged along its edge. */
  readonly along?: true;
}

/** What belongs together in a rubric: figures of one property, or a question that only a person can answer. */
export interface StandardLine {
  readonly id: string;
  readonly title: string;
  readonly why: string;
  readonly fields: readonly StandardField[];
  readonly asks?: Question;
}

export interface StandardError extends Place {
  readonly title: string;
  readonly why: string;
  readonly allowed: Band;
  readonly effect: CriticalError['effect'];
}

/** What a preparation of one kind should measure, by one school. */
export interface Standard {
  readonly id: string;
  readonly name: string;
  readonly school: string;
  readonly kind: string;
  /** Covers only some cusps: what is asked of the others is left out. */
  readonly partial?: boolean;
  readonly lines: readonly StandardLine[];
  readonly critical: readonly StandardError[];
}
