import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Scan and master for the three-point page, each in its own frame. */
export const GET: APIRoute = endpoint(async (context) => {
  const file = await (await app()).jobs.pair(number(context.params.id));
  if (!file) throw new Refused('not-there', 'There is no such scan, or its master is gone.');
  return new Response(file as BodyInit, { headers: { 'Content-Type': 'application/octet-stream', 'Content-Encoding': 'gzip' } });
});
