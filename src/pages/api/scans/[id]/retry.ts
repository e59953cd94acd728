import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { retryScan } from '#server/scans/steer.ts';
import { app } from '#server/start.ts';

/** Measures a scan again; earlier measurements stay. */
export const POST: APIRoute = endpoint(async (context) => {
  await retryScan(await app(), context.locals.person, number(context.params.id));
  return Response.json({ done: true });
});
