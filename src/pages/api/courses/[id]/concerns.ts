import type { APIRoute } from 'astro';
import { ConcernNote } from '#contract/cohort-view.ts';
import { body, endpoint } from '#server/http.ts';
import { putAside } from '#server/progress/limits.ts';
import { app } from '#server/start.ts';

/** Puts a concern aside with a note. */
export const POST: APIRoute = endpoint(async (context) => {
  await putAside(await app(), context.locals.person, context.params.id ?? '', await body(context, ConcernNote));
  return Response.json({ done: true });
});
