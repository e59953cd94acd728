import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint, number } from '#server/http.ts';
import { sizeScan } from '#server/scans/steer.ts';
import { app } from '#server/start.ts';

/** Corrects a scan's size by its measured size, or withdraws the correction, and measures the scan again. */
export const POST: APIRoute = endpoint(async (context) => {
  const { correct } = await body(context, v.object({ correct: v.boolean() }));
  await sizeScan(await app(), context.locals.person, number(context.params.id), correct);
  return Response.json({ done: true });
});
