import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { clearCriticalErrors, judge } from '#server/grading/judge.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { scoreFor } from '#server/view/current.ts';

const Judge = v.union([
  // Records all undecided critical errors as checked and not found.
  v.object({ none: v.literal('critical') }),
  v.object({
    line: v.string(),
    level: v.optional(v.nullable(v.picklist([0, 1, 2, 3])), null),
    made: v.optional(v.nullable(v.boolean()), null),
    reason: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(500))), null),
  }),
]);

/** Records a judgement on one line and answers with the new score. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  const { person } = context.locals;
  const j = await body(context, Judge);
  if ('none' in j) await clearCriticalErrors(a.records, person, id);
  else await judge(a.records, person, id, j);
  return Response.json(await scoreFor(a.db, person, id));
});
