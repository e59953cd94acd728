import * as v from 'valibot';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';
import type { Basis } from '#core/sign/basis.ts';
import type { GradedResult } from '#core/sign/result.ts';
import { CurvesFile, ReadingFile, StatName } from './reading.ts';
import { RubricFile } from './rubric.ts';

const nullableNumber = v.nullable(v.number());
const nullableText = v.nullable(v.string());

export const Hand = v.object({
  name: v.string(),
  zone: nullableText,
  stat: StatName,
  method: v.picklist(Object.keys(HAND_METHODS) as [HandMethod, ...HandMethod[]]),
  lo: v.number(),
  hi: v.number(),
});

const Result = v.object({
  total: nullableNumber,
  passed: v.nullable(v.boolean()),
  failures: v.array(v.string()),
  lines: v.array(v.object({ text: v.string(), points: v.number() })),
  criteria: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      verdict: v.string(),
      computed: nullableNumber,
      level: nullableNumber,
      decidedBy: nullableText,
      points: nullableNumber,
      of: v.number(),
      reading: nullableText,
      stat: nullableText,
      zone: nullableText,
      value: nullableNumber,
      U: nullableNumber,
      unit: nullableText,
      lo: nullableNumber,
      hi: nullableNumber,
    }),
  ),
  critical: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      verdict: v.string(),
      made: v.nullable(v.boolean()),
      waived: v.boolean(),
      decidedBy: nullableText,
      value: nullableNumber,
      U: nullableNumber,
      unit: nullableText,
    }),
  ),
}) satisfies v.GenericSchema<GradedResult>;

/** A signed grade (`veritor-grade/2`): everything that is needed to compute it again. */
export const GradeFile = v.object({
  format: v.literal('veritor-grade/2'),
  attempt: v.object({
    id: v.number(),
    number: v.number(),
    student: v.string(),
    sitting: v.string(),
    exercise: v.string(),
    course: v.string(),
  }),
  round: v.picklist([1, 2, 3]),
  version: v.number(),
  grader: v.string(),
  signedAt: v.string(),
  /** Digest of the score that the signer saw. */
  seen: v.string(),
  measurement: v.nullable(
    v.object({
      id: v.number(),
      scan_sha256: v.string(),
      master_sha256: nullableText,
      kind: v.string(),
      hand_pose: v.nullable(v.array(v.number())),
      core_version: v.string(),
      alignment: v.looseObject({}),
    }),
  ),
  rubric: v.object({ sha256: v.string(), body: RubricFile }),
  standard: v.nullable(v.object({ sha256: v.string(), body: v.looseObject({}) })),
  cusps: v.array(v.object({ name: v.string(), role: v.picklist(['functional', 'non-functional']) })),
  readings: v.array(ReadingFile),
  curves: CurvesFile,
  hand: v.array(v.object({ ...Hand.entries, person: v.string(), at: v.string() })),
  judgements: v.array(
    v.object({
      line: v.string(),
      level: v.nullable(v.picklist([0, 1, 2, 3])),
      made: v.nullable(v.boolean()),
      reason: nullableText,
      person: v.string(),
      at: v.string(),
    }),
  ),
  remarks: v.array(v.object({ line: v.string(), body: v.string(), person: v.string(), at: v.string() })),
  pins: v.array(
    v.object({ line: v.string(), x: v.number(), y: v.number(), z: v.number(), note: v.string(), person: v.string(), at: v.string() }),
  ),
  result: Result,
});
export type GradeFile = v.InferOutput<typeof GradeFile>;

/** Evidence of a signed record. */
export const basisOf = (g: GradeFile): Basis => ({
  rubric: g.rubric.body,
  cusps: g.cusps,
  readings: g.readings,
  curves: g.curves,
  hand: g.hand,
  judgements: Object.fromEntries(g.judgements.map((j) => [j.line, { level: j.level, made: j.made }])),
});

/** Record of an older format: kept and shown, but without its readings. */
export const OldGrade = v.looseObject({
  format: v.literal('veritor-grade/1'),
  criteria: v.array(
    v.looseObject({
      id: v.string(),
      title: v.string(),
      level: nullableNumber,
      value: nullableNumber,
      U: nullableNumber,
      unit: nullableText,
      zone: nullableText,
      lo: v.optional(nullableNumber, null),
      hi: v.optional(nullableNumber, null),
      reason: v.optional(nullableText, null),
      comment: v.optional(nullableText, null),
      points: nullableNumber,
      of: v.number(),
      verdict: v.string(),
    }),
  ),
  critical: v.array(v.looseObject({ title: v.string(), made: v.boolean() })),
});
