/** Reading that a line rests on, in words and figures. */
export interface ReportReading {
  readonly reading: string;
  readonly words: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly unit: string;
  readonly value: number | null;
  readonly U: number | null;
  /** Lower and upper end of a reading by hand, which then decides. */
  readonly byHand: readonly [number, number] | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly verdict: string;
  readonly reason: string | null;
  readonly isDeciding: boolean;
}
export interface ReportLine {
  readonly id: string;
  readonly title: string;
  readonly why: string;
  readonly level: number | null;
  readonly word: string;
  readonly points: number | null;
  readonly lost: number | null;
  readonly of: number;
  readonly decidedBy: 'measurement' | 'person' | null;
  readonly question: string | null;
  readonly reason: string | null;
  readonly comment: string | null;
  readonly readings: readonly ReportReading[];
  /** What its student gave it before seeing the result. */
  readonly own: { readonly level: number | null; readonly figure: number | null } | null;
}
export interface ReportError {
  readonly id: string;
  readonly title: string;
  readonly made: boolean;
  readonly waived: boolean;
  readonly value: number | null;
  readonly U: number | null;
  readonly unit: string;
  readonly effect: string;
  readonly reason: string | null;
}

/** One signed attempt (`veritor-report/1`): what page, PDF, CSV and JSON are made of. */
export interface AttemptReport {
  readonly format: 'veritor-report/1';
  readonly school: string;
  readonly course: { readonly name: string; readonly term: string };
  readonly student: { readonly id: string; readonly name: string; readonly bench: string | null };
  readonly attempt: {
    readonly id: number;
    readonly number: number;
    readonly exercise: string;
    readonly tooth: string;
    readonly sitting: string;
    readonly heldOn: string;
    readonly minutes: number | null;
  };
  readonly grade: {
    readonly version: number;
    readonly grader: string;
    readonly signedAt: string;
    readonly released: boolean;
    readonly total: number | null;
    readonly passed: boolean;
    readonly failures: readonly string[];
    readonly digest: string;
  };
  readonly basis: {
    readonly rubric: { readonly name: string; readonly passMark: number; readonly sha256: string | null };
    readonly standard: { readonly name: string; readonly sha256: string } | null;
    readonly coreVersion: string | null;
    readonly scanSha256: string | null;
    readonly alignmentRms: number | null;
  };
  readonly critical: readonly ReportError[];
  readonly lines: readonly ReportLine[];
  readonly own: { readonly minutes: number | null } | null;
}
