import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { openAttempt } from '#server/scans/bring.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({ student: v.string(), again: v.optional(v.boolean(), false) });

/** Opens an attempt that has no scan, to be graded by hand; one that is there already is simply found, unless another one is wanted. */
export const POST: APIRoute = endpoint(async (context) => {
  const { student, again } = await body(context, Wanted);
  const attempt = await openAttempt(await app(), context.locals.person, context.params.id as string, student, again);
  return Response.json({ attempt });
});
