import * as v from 'valibot';

const end = v.nullable(v.pipe(v.number(), v.finite()));
const Band = v.object({ lo: end, hi: end });
const Stat = v.picklist(['value', 'min', 'p05', 'median', 'mean', 'p95', 'max', 'count', 'share']);

const points = v.pipe(v.number(), v.minValue(0), v.maxValue(100));
const count = v.pipe(v.number(), v.integer(), v.minValue(0));

/** A rubric file (`veritor-rubric/1`), as stored, imported and exported. */
export const RubricFile = v.object({
  format: v.literal('veritor-rubric/1'),
  id: v.string(),
  name: v.string(),
  standard: v.string(),
  levels: v.pipe(
    v.array(v.object({ level: v.picklist([0, 1, 2, 3]), word: v.string(), share: v.pipe(v.number(), v.minValue(0), v.maxValue(1)) })),
    v.length(4),
  ),
  passMark: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
  scoring: v.optional(
    v.variant('kind', [
      v.object({ kind: v.literal('levels') }),
      v.object({ kind: v.literal('deduct'), off: v.object({ sound: points, marginal: points, notYet: points }) }),
      v.object({ kind: v.literal('examination'), minor: count, major: count }),
    ]),
  ),
  partial: v.optional(v.boolean()),
  criteria: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      weight: v.pipe(v.number(), v.minValue(0)),
      why: v.string(),
      targets: v.array(v.object({ reading: v.string(), zone: v.nullable(v.string()), stat: Stat, band: Band, fair: Band, poor: Band })),
    }),
  ),
  critical: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      reading: v.string(),
      zone: v.nullable(v.string()),
      stat: Stat,
      allowed: Band,
      effect: v.variant('kind', [
        v.object({ kind: v.literal('fail') }),
        v.object({ kind: v.literal('cap'), at: v.number() }),
        v.object({ kind: v.literal('deduct'), points: v.number() }),
      ]),
    }),
  ),
});
export type RubricFile = v.InferOutput<typeof RubricFile>;
