import type { APIRoute } from 'astro';
import { releaseAttempt } from '#server/grading/release.ts';
import { endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Shows the student the newest signed version. */
export const POST: APIRoute = endpoint(async (context) => {
  const { version } = await releaseAttempt((await app()).records, context.locals.person, number(context.params.id));
  return Response.json({ released: true, version });
});
