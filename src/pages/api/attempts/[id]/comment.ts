import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { remark } from '#server/grading/judge.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { scoreFor } from '#server/view/current.ts';

const Comment = v.object({ line: v.string(), comment: v.pipe(v.string(), v.maxLength(2000)) });

/** Sets the comment to the student on one line; an empty text removes it. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  const c = await body(context, Comment);
  await remark(a.records, context.locals.person, id, c.line, c.comment);
  return Response.json(await scoreFor(a.db, context.locals.person, id));
});
