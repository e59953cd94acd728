import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The exercise's master as a picture: what an attempt without a scan is read on by hand. */
export const GET: APIRoute = endpoint(async (context) => {
  const file = await (await app()).jobs.masterPicture(number(context.params.id));
  if (!file) throw new Refused('not-there', 'The files of this exercise’s master are gone. Tell the course director.');
  return new Response(file as BodyInit, { headers: { 'Content-Type': 'application/octet-stream', 'Content-Encoding': 'gzip' } });
});
