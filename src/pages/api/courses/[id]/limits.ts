import type { APIRoute } from 'astro';
import { LimitsForm } from '#contract/cohort-view.ts';
import { body, endpoint } from '#server/http.ts';
import { setLimits } from '#server/progress/limits.ts';
import { app } from '#server/start.ts';

/** Failure rates that a course calls acceptable and not. */
export const POST: APIRoute = endpoint(async (context) => {
  await setLimits(await app(), context.locals.person, context.params.id ?? '', await body(context, LimitsForm));
  return Response.json({ done: true });
});
