import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { removeScan } from '#server/scans/bring.ts';
import { app } from '#server/start.ts';

/** Takes a scan out of its sitting; the file stays. */
export const POST: APIRoute = endpoint(async (context) => {
  await removeScan(await app(), context.locals.person, number(context.params.id));
  return Response.json({ done: true });
});
