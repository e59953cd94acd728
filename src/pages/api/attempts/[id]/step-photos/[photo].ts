import type { APIRoute } from 'astro';
import { pictureResponse } from '#server/files-out.ts';
import { endpoint, number } from '#server/http.ts';
import { removeStepPhoto, stepPhoto } from '#server/photos/steps.ts';
import { app } from '#server/start.ts';

/** A student's photograph of a step. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  return pictureResponse(a.files, await stepPhoto(a.db, number(context.params.id), number(context.params.photo)));
});

/** Its student takes it away; the file is kept. */
export const DELETE: APIRoute = endpoint(async (context) => {
  await removeStepPhoto(await app(), context.locals.person, number(context.params.id), number(context.params.photo));
  return Response.json({ done: true });
});
