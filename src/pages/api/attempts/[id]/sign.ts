import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { signAttempt } from '#server/grading/sign.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

const Seen = v.object({ seen: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'it should be the digest of the score that was shown')) });

/** Signs the score that was shown, identified by its digest. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { seen } = await body(context, Seen);
  return Response.json(await signAttempt(a.records, context.locals.person, number(context.params.id), seen, a.standardsFolder));
});
