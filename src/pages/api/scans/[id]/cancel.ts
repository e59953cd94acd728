import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { cancelScan } from '#server/scans/steer.ts';
import { app } from '#server/start.ts';

/** Stops measuring a scan. */
export const POST: APIRoute = endpoint(async (context) => {
  await cancelScan(await app(), context.locals.person, number(context.params.id));
  return Response.json({ done: true });
});
