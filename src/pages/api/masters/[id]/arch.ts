import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { draftById } from '#server/masters/rows.ts';
import { app } from '#server/start.ts';

/** The arch to look at and to draw on, coloured by parts once these are known. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const d = await draftById(a.db, context.params.id ?? '');
  const { body, size } = await a.files.stream(d.display_sha256);
  return new Response(body, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Encoding': 'gzip',
      'Content-Length': String(size),
      'Cache-Control': 'private, no-store',
    },
  });
});
