import type { APIRoute } from 'astro';
import { SittingForm } from '#contract/course.ts';
import { changeSitting } from '#server/course/setup.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Day, time and room of a sitting. */
export const POST: APIRoute = endpoint(async (context) => {
  await changeSitting(await app(), context.locals.person, context.params.id ?? '', await body(context, SittingForm));
  return Response.json({ done: true });
});
