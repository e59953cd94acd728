import type { APIRoute } from 'astro';
import { withdrawRelease } from '#server/grading/release.ts';
import { endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Withdraws a release; the grade stays. */
export const POST: APIRoute = endpoint(async (context) => {
  await withdrawRelease((await app()).records, context.locals.person, number(context.params.id));
  return Response.json({ released: false });
});
