import type { APIRoute } from 'astro';
import { SelfForm } from '#contract/work.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { assess } from '#server/student/assess.ts';
import { workView } from '#server/student/work.ts';

/** What a student says of their own attempt; answers what they see of it now. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  await assess(a, context.locals.person, id, await body(context, SelfForm));
  return Response.json(await workView(a.db, id));
});
