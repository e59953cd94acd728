import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { addPhoto, PHOTO_BYTES, photoOf, removePhoto } from '#server/grading/photo.ts';
import { endpoint, number } from '#server/http.ts';
import { receive } from '#server/scans/receive.ts';
import { app } from '#server/start.ts';

/** The photograph beside an attempt. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const shown = await photoOf(a.db, number(context.params.id));
  if (!shown) throw new Refused('not-there', 'No photograph lies beside this attempt.');
  const { body, size } = await a.files.stream(shown.sha256);
  return new Response(body, {
    headers: { 'Content-Type': shown.media, 'Content-Length': String(size), 'Cache-Control': 'private, no-store' },
  });
});

/** Puts a photograph beside it: multipart, one file named `photo`. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { files } = await receive(context.request, a.files, 'photo', { ...a.children.limits, fileBytes: PHOTO_BYTES, entries: 1 });
  if (!files.length) throw new Refused('malformed', 'No file came with this. Choose one photograph.');
  return Response.json({ photo: await addPhoto(a, context.locals.person, number(context.params.id), files[0]) });
});

/** Takes it away again; the file is kept. */
export const DELETE: APIRoute = endpoint(async (context) => {
  await removePhoto(await app(), context.locals.person, number(context.params.id));
  return Response.json({ photo: null });
});
