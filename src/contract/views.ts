import type { ColourOf } from '#core/catalogue/entry.ts';
import type { HandMethod, Step } from '#core/catalogue/terms.ts';
import type { Decision } from '#core/plan/decide.ts';
import type { DecidedBy } from '#core/score/judge.ts';
import type { Repair } from '#core/score/repair.ts';
import type { Question } from '#core/score/rubric.ts';
import type { Allowance } from '#core/score/stage.ts';
import type { Verdict } from '#core/score/verdict.ts';
import type { DepthBands } from './depth-ramp.ts';

/** Reading at a place that a rubric asks for; without a value if it was refused. */
interface ReadView {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly unit: string;
  readonly value: number | null;
  readonly U: number | null;
}

export interface TargetView extends ReadView {
  /** Reason for a missing value, as a sentence. */
  readonly reason: string | null;
  /** Share inside and worst stretch of an edge that is judged along its length. */
  readonly along: { readonly inside: number; readonly worst: number } | null;
  /** Methods for reading it by hand, the most usual first. */
  readonly methods: readonly HandMethod[];
  /** The instructor's own reading at this place, with the scan's reading beside it. */
  readonly hand: { readonly method: HandMethod; readonly lo: number; readonly hi: number } | null;
  /** Only a reading by hand decides; one by the scan is shown beside it. */
  readonly onlyByHand: boolean;
  readonly scanned: { readonly value: number; readonly U: number | null } | null;
  readonly coverage: number | null;
  readonly azimuth: number | null;
  /** Place in the display frame: x as on the picture, y facial, z occlusal. */
  readonly point: readonly number[] | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly verdict: Verdict;
  readonly deciding: boolean;
  /** Repair that would bring it inside; null if none is needed or known. */
  readonly repair: Repair | null;
}
/** A place that the instructor marked on the tooth; in the display frame. */
export interface PinView {
  readonly id: number;
  readonly point: readonly number[];
  readonly azimuth: number;
  readonly note: string;
}
export interface CriterionView {
  readonly id: string;
  readonly title: string;
  readonly why: string;
  readonly verdict: Verdict;
  readonly computed: number | null;
  /** Lowest and highest level that the readings allow. */
  readonly range: readonly [number, number];
  readonly decidedBy: DecidedBy;
  readonly level: number | null;
  readonly overridden: boolean;
  /** A judgement was given here, and its evidence has changed since. */
  readonly reopened: boolean;
  readonly reason: string | null;
  readonly comment: string | null;
  readonly pins: readonly PinView[];
  readonly points: number | null;
  /** What it cost of 100; null while it is open. */
  readonly lost: number | null;
  /** Provisional points from the readings alone, until a person decides. */
  readonly provisional: number | null;
  readonly of: number;
  readonly targets: readonly TargetView[];
  /** What a person is asked where nothing is read. */
  readonly asks: Question | null;
}
/** A sentence of the course's bank: for readings whose name begins so, and lie on that side of their band. */
export interface PhraseView {
  readonly about: string;
  readonly side: '' | 'under' | 'over';
  readonly body: string;
}
export interface CriticalView {
  readonly id: string;
  readonly title: string;
  readonly verdict: Verdict;
  /** Null: undecided. */
  readonly made: boolean | null;
  readonly decidedBy: DecidedBy;
  readonly waived: boolean;
  readonly reopened: boolean;
  readonly methods: readonly HandMethod[];
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly hand: TargetView['hand'];
  /** Up to this much is no error; null where the limit is below. */
  readonly allowed: number | null;
  readonly reason: string | null;
  readonly value: number | null;
  readonly U: number | null;
  readonly unit: string;
  readonly azimuth: number | null;
  readonly point: readonly number[] | null;
  readonly effect: string;
}
export interface ScoreView {
  readonly total: number | null;
  readonly passed: boolean | null;
  readonly range: { readonly least: number; readonly most: number };
  /** Reasons that keep it from passing, whatever is decided on the open lines. */
  readonly failures: readonly string[];
  readonly lines: readonly { readonly text: string; readonly points: number }[];
  /** Lines that a person must decide before it can be signed. */
  readonly undecided: readonly string[];
  /** Digest of this score, which a signature covers. */
  readonly seen: string;
  readonly criteria: readonly CriterionView[];
  readonly critical: readonly CriticalView[];
  readonly levels: readonly { level: number; word: string }[];
}
export interface RingChoice {
  readonly id: string;
  readonly title: string;
  readonly unit: string;
  readonly digits: number;
  readonly band: readonly [number | null, number | null];
  readonly U: number;
  /** What + and − mean. */
  readonly sign: string | null;
  /** A stretch of it that a reading of its own stands for, as the margin's thinnest 10°: degrees from and to, and its words. */
  readonly stretch: { readonly from: number; readonly to: number; readonly words: string } | null;
}
/** One reading at a step: its state and what may still be cut. */
export interface AllowanceView extends ReadView {
  readonly title: string;
  readonly reason: string | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly azimuth: number | null;
  readonly stands: Allowance['stands'];
  readonly repair: Repair | null;
}
export interface StageView {
  readonly scan: number;
  readonly step: Exclude<Step, 'final'>;
  readonly version: number;
  /** What the course looks at at this step; empty where it says nothing. */
  readonly check: string;
  readonly needsWord: boolean;
  readonly lines: readonly AllowanceView[];
  /** Critical errors that can exist by this step; null where they could not be read. */
  readonly critical: readonly { readonly title: string; readonly made: boolean | null }[];
  readonly decision: Decision;
  /** Points that are lost whatever comes. */
  readonly costs: number;
}

export interface BenchView {
  /** Scans taken on the way, the newest of each step, in the order of the work. */
  readonly stages: readonly StageView[];
  /** Whether what is graded has been scanned and measured. */
  readonly finished: boolean;
  readonly attempt: {
    readonly id: number;
    readonly sitting_id: string;
    readonly sitting_title: string;
    readonly held_on: string;
    readonly student_id: string;
    readonly student_name: string;
    readonly bench: string | null;
    readonly exercise_title: string;
    readonly tooth: string;
    /** Version that the student sees; null while none is released. */
    readonly released: number | null;
    readonly number: number;
  };
  /** Photograph beside it, for graders; null where there is none. */
  readonly photo: number | null;
  /** The round in which the reader of this page works. */
  readonly round: number;
  /** Measurements of the finished work, newest last; one of them is graded. */
  readonly measurements: readonly {
    readonly id: number;
    readonly fileName: string;
    readonly measuredAt: string;
    readonly isGraded: boolean;
  }[];
  readonly score: ScoreView;
  /** The course's phrase bank; `about` is the beginning of the readings that a phrase speaks of. */
  readonly phrases: readonly PhraseView[];
  readonly measurement: {
    id: number;
    scan: number;
    fileName: string;
    rms: number;
    pointError: number;
    /** Per cent by which the scan is too large with U, if significant; and the correction applied. */
    size: { percent: number; U: number } | null;
    correctedBy: number | null;
    seconds: number;
    display: string;
    profiles: string;
  } | null;
  readonly bands: DepthBands;
  /** How the kind of preparation is drawn. */
  readonly drawn: { readonly hollow: boolean; readonly colours: readonly ColourOf[] };
  /** Quantities that can be shown round the tooth, with the rubric's band and the readings' own U. */
  readonly rings: readonly RingChoice[];
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
  readonly grades: readonly {
    readonly version: number;
    readonly round: number;
    readonly total: number | null;
    readonly passed: boolean;
    readonly grader: string;
    readonly signedAt: string;
    readonly digest: string;
    /** Digest of the score that was seen when it was signed; null in records of before. */
    readonly seen: string | null;
  }[];
  /** In the Tray's list that the address names. */
  readonly next: number | null;
  readonly previous: number | null;
  /** The next attempt of the list that can be graded and that nobody has signed, round and round. */
  readonly nextUnsigned: number | null;
}
