import type { Step } from '#core/catalogue/terms.ts';

/** What the server's view functions build and the islands show: one shape a screen. */
export interface SittingView {
  readonly id: string;
  readonly course_id: string;
  readonly title: string;
  readonly held_on: string;
  readonly exercise_id: string;
  readonly exercise_title: string;
  readonly tooth: string;
  /** Time allowed, and the steps at which the work may be shown; not known of older exercises. */
  readonly minutes: number | null;
  readonly steps: readonly Step[];
}

export interface TrayRow {
  readonly scan_id: number;
  readonly attempt_id: number | null;
  /** Which of the student's attempts in this sitting it is. */
  readonly number: number | null;
  readonly student_id: string | null;
  readonly student_name: string | null;
  readonly bench: string | null;
  readonly file_name: string;
  readonly version: number;
  /** Where the cutting stood when it was scanned. */
  readonly step: Step;
  readonly state: string;
  /** The row's state, and what a person still has to do. */
  readonly word: string;
  /** While it is measured: stage and share done of the whole. */
  readonly progress: { readonly stage: string; readonly share: number } | null;
  readonly fault: string | null;
  readonly fault_code: string | null;
  readonly measurement_id: number | null;
  readonly picture: string | null;
  /** Who is to grade it, when it was given to somebody. */
  readonly grader_id: string | null;
  readonly grader_name: string | null;
  readonly grade_total: number | null;
  readonly grade_passed: boolean | null;
  readonly released: boolean;
  /** Whether what is graded now differs from what was signed last. */
  readonly changed: boolean;
  readonly counts: { readonly inside: number; readonly close: number; readonly outside: number; readonly none: number } | null;
  readonly critical: number;
  readonly total: number | null;
  /** Whether it passes; null while a line is undecided. */
  readonly passed: boolean | null;
  /** Range of the total while lines are undecided. */
  readonly range: readonly [number, number] | null;
  /** Lines that a person must decide. */
  readonly open: number;
  /** What keeps it from passing, the gravest first. */
  readonly failures: readonly string[];
  /** Digest of the score shown, needed for signing. Null for a person who sees no scores. */
  readonly seen: string | null;
}

/** What a file's name says, before it is sent. */
export interface FilePreview {
  readonly fileName: string;
  readonly student: string | null;
  readonly by: 'number' | 'bench' | 'name' | null;
  readonly step: Step;
  readonly version: number;
}

/** What became of one file that was dropped on a tray. */
export interface UploadOutcome {
  readonly fileName: string;
  readonly scanId: number | null;
  readonly student: string | null;
  /** `matched`, `unmatched` (kept, waits for a student), `duplicate`, or `refused` with the reason. */
  readonly outcome: 'matched' | 'unmatched' | 'duplicate' | 'refused';
  readonly message: string;
}
