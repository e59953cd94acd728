import * as v from 'valibot';
import { RubricFile } from './rubric.ts';

/** What past attempts read at one target: values with their U, and whose they are is not said. */
export const Past = v.object({ place: v.string(), values: v.array(v.number()), U: v.nullable(v.number()) });
export type Past = v.InferOutput<typeof Past>;

export const RubricView = v.object({
  id: v.string(),
  kind: v.nullable(v.string()),
  body: RubricFile,
  version: v.number(),
  versions: v.array(v.object({ version: v.number(), signed: v.number() })),
  /** Exercises of this course that use it, with the version they are on. */
  exercises: v.array(v.object({ id: v.string(), title: v.string(), version: v.number() })),
  past: v.array(Past),
  attempts: v.number(),
});
export type RubricView = v.InferOutput<typeof RubricView>;

/** What a changed rubric would have done to attempts that were signed with the old one. */
export const RubricPreview = v.object({
  attempts: v.number(),
  passedBefore: v.number(),
  passedAfter: v.number(),
  moved: v.array(
    v.object({
      attempt: v.number(),
      student: v.string(),
      before: v.nullable(v.number()),
      after: v.nullable(v.number()),
      passedBefore: v.boolean(),
      /** Null where a person would have to decide again. */
      passedAfter: v.nullable(v.boolean()),
    }),
  ),
});
export type RubricPreview = v.InferOutput<typeof RubricPreview>;

export const RubricEdit = v.object({ body: RubricFile, version: v.number() });
