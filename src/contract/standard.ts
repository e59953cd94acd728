import * as v from 'valibot';

/** A standard file (`veritor-standard/1`): the figures of one kind of preparation, each with its reason. */
export const StandardFile = v.object({
  format: v.literal('veritor-standard/1'),
  id: v.string(),
  name: v.string(),
  kind: v.picklist(['crown', 'cavity', 'onlay', 'partial', 'preformed', 'restoration']),
  note: v.string(),
  fields: v.array(v.object({ name: v.string(), value: v.string(), why: v.string() })),
});
export type StandardFile = v.InferOutput<typeof StandardFile>;
