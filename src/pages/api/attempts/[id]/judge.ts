import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { clearCriticalErrors, judge } from '#server/grading/judge.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { scoreFor } from '#server/view/current.ts';

const Judge = v.union([
  // Every critical error that is undecided: looked at, none found.
  v.object({ none: v.literal('critical') }),
  v.object({
    line: v.string(),
    level: v.optional(v.nullable(v.picklist([0, 1, 2, 3])), null),
    made: v.optional(v.nullable(v.boolean()), null),
    reason: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(500))), null),
  }),
]);

/** A person's word on one line; answers with the score as it stands then. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  const { person } = context.locals;
  const j = await body(context, Judge);
  if ('none' in j) await clearCriticalErrors(a.records, person, id);
  else await judge(a.records, person, id, j);
  return Response.json(await scoreFor(a.db, person, id));
});
