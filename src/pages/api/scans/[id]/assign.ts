import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint, number } from '#server/http.ts';
import { assignScan } from '#server/scans/bring.ts';
import { app } from '#server/start.ts';

/** Gives a scan to a student of the course. */
export const POST: APIRoute = endpoint(async (context) => {
  const { student } = await body(context, v.object({ student: v.string() }));
  await assignScan(await app(), context.locals.person, number(context.params.id), student);
  return Response.json({ done: true });
});
