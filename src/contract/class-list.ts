/** One student of a course's list. */
export interface ClassLine {
  readonly id: string;
  readonly name: string;
  readonly bench: string | null;
  readonly group: string | null;
  /** Sittings whose newest grade counts. */
  readonly signed: number;
  /** Mean of those with points; null where none has. */
  readonly mean: number | null;
  readonly passed: readonly string[];
  /** Exercises that were graded and never passed. */
  readonly open: readonly string[];
  /** Exercises without a signed grade. */
  readonly missing: readonly string[];
  readonly absent: number;
}

/** Where everybody of a course stands (`veritor-class-list/1`). */
export interface ClassList {
  readonly format: 'veritor-class-list/1';
  readonly school: string;
  readonly course: { readonly name: string; readonly term: string };
  /** Exercises that had a sitting. */
  readonly exercises: readonly string[];
  readonly students: readonly ClassLine[];
}
