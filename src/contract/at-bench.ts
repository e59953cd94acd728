import * as v from 'valibot';
import type { Happening, Word } from '#core/plan/bench-clock.ts';
import type { Cause } from '#core/plan/causes.ts';
import type { PlannedStep } from '#core/plan/plan.ts';
import type { CutterItem } from './kit.ts';
import type { StageView } from './views.ts';

export const EVENT_KINDS = ['begin', 'pause', 'done', 'entry', 'ask', 'tooth'] as const;

/** A reading of the student's own: somewhere from lo to hi, or how it felt. */
const Entry = v.object({
  method: v.picklist(['gauge', 'probe', 'wax', 'feel']),
  place: v.pipe(v.string(), v.trim(), v.maxLength(80, 'At most 80 letters.')),
  lo: v.nullable(v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(20, 'At most 20 mm.'))),
  hi: v.nullable(v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(20, 'At most 20 mm.'))),
  felt: v.pipe(v.string(), v.trim(), v.maxLength(80, 'At most 80 letters.')),
});
export type Entry = v.InferOutput<typeof Entry>;

const KEY = v.regex<string, string>(/^[\w-]{8,60}$/, 'A key has 8 to 60 letters, digits and dashes.');

/** What happened at the bench, as the student's device noted it; the key is the device's own. */
export const BenchEvent = v.object({
  key: v.pipe(v.string(), KEY),
  kind: v.picklist(EVENT_KINDS),
  step: v.pipe(v.string(), v.maxLength(40)),
  at: v.pipe(v.string(), v.isoTimestamp('Expected a time as ISO 8601.')),
  entry: v.optional(v.nullable(Entry), null),
  why: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(200, 'At most 200 letters.')), ''),
});
export type BenchEvent = v.InferOutput<typeof BenchEvent>;
export const BenchEvents = v.object({ events: v.pipe(v.array(BenchEvent), v.maxLength(500, 'At most 500 happenings at once.')) });

/** What a device says of a photograph that it sends: to which step it belongs, when it was taken, and the device's own key. */
export const StepPhotoForm = v.object({
  key: v.pipe(v.string(), KEY),
  step: v.pipe(v.string(), v.maxLength(40)),
  at: v.pipe(v.string(), v.isoTimestamp('Expected a time as ISO 8601.')),
});
/** A student's photograph of a step; its picture is fetched by its number. */
export interface StepPhoto {
  readonly id: number;
  readonly step: string;
  readonly at: string;
}

/** An instructor's word on a step. */
export const BenchWord = v.object({
  step: v.pipe(v.string(), v.minLength(1), v.maxLength(40)),
  word: v.picklist(['go-on', 'correct', 'new-tooth']),
  initials: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give your initials.'), v.maxLength(6, 'At most 6 letters.')),
  note: v.pipe(v.string(), v.trim(), v.maxLength(300, 'At most 300 letters.')),
});
export type BenchWord = v.InferOutput<typeof BenchWord>;

/** What a student sees at the bench. */
export interface AtBench {
  readonly attempt: {
    readonly id: number;
    readonly exercise: string;
    readonly exerciseId: string;
    readonly title: string;
    readonly student: string;
    readonly name: string;
    readonly tooth: string;
    readonly bench: string | null;
  };
  readonly plan: readonly PlannedStep[];
  readonly cutters: readonly CutterItem[];
  readonly steps: readonly { readonly id: string; readonly number: number; readonly needsWord: boolean }[];
  readonly events: readonly (Happening & { readonly entry: Entry | null; readonly why: string })[];
  readonly words: readonly Word[];
  /** Scans of steps that were measured, and what they come to; and those that are on their way. */
  readonly stages: readonly StageView[];
  readonly coming: readonly { readonly step: string; readonly state: string; readonly fault: string | null }[];
  readonly photos: readonly StepPhoto[];
  /** Only of whoever asks: their own device may add happenings. */
  readonly isOwn: boolean;
}
/** What became of happenings that were sent: which were taken, and why the others were not. */
export interface EventsTaken {
  readonly taken: readonly string[];
  readonly refused: readonly { readonly key: string; readonly why: string }[];
  readonly now: AtBench;
}

/** One student who asks for a look. */
export interface Asked {
  readonly attempt: number;
  readonly student: string;
  readonly name: string;
  readonly bench: string | null;
  readonly exercise: string;
  readonly step: string;
  readonly since: string;
  /** Photographs of that step, by number. */
  readonly photos: readonly number[];
}

/** What a plan expected beside what was read, and what it likely came from; and how the work went. */
export interface PlannedBeside {
  readonly lines: readonly { readonly words: string; readonly expected: string; readonly read: string; readonly how: string | null }[];
  readonly causes: readonly Cause[];
  /** The gap under the guide at its probe sites, in half millimetres, beside the depth that was measured. */
  readonly sites: readonly { readonly zone: string; readonly from: number; readonly to: number; readonly depth: number }[];
  readonly steps: readonly {
    readonly id: string;
    readonly minutes: number;
    readonly turns: number;
    readonly words: readonly string[];
    readonly photos: readonly number[];
  }[];
  readonly teeth: readonly string[];
}
