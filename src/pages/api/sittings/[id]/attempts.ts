import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { openAttempt } from '#server/scans/bring.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({ student: v.string(), again: v.optional(v.boolean(), false) });

/** Opens an attempt without a scan, to be graded by hand. Returns an existing one unless `again` is set. */
export const POST: APIRoute = endpoint(async (context) => {
  const { student, again } = await body(context, Wanted);
  const attempt = await openAttempt(await app(), context.locals.person, context.params.id as string, student, again);
  return Response.json({ attempt });
});
