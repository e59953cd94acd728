import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { pictureResponse } from '#server/files-out.ts';
import { endpoint, number } from '#server/http.ts';
import { addPhoto, photoOf, removePhoto } from '#server/photos/beside.ts';
import { onePhoto } from '#server/photos/keep.ts';
import { app } from '#server/start.ts';

/** The photograph beside an attempt. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const shown = await photoOf(a.db, number(context.params.id));
  if (!shown) throw new Refused('not-there', 'No photograph lies beside this attempt.');
  return pictureResponse(a.files, shown);
});

/** Puts a photograph beside it: multipart, one file named `photo`. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { photo } = await onePhoto(a, context.request);
  return Response.json({ photo: await addPhoto(a, context.locals.person, number(context.params.id), photo) });
});

/** Takes it away again; the file is kept. */
export const DELETE: APIRoute = endpoint(async (context) => {
  await removePhoto(await app(), context.locals.person, number(context.params.id));
  return Response.json({ photo: null });
});
