import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { pictureAnswer } from '#server/photos/keep.ts';
import { removeStepPhoto, stepPhoto } from '#server/photos/steps.ts';
import { app } from '#server/start.ts';

/** A student's photograph of a step. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  return pictureAnswer(a, await stepPhoto(a.db, number(context.params.id), number(context.params.photo)));
});

/** Its student takes it away; the file is kept. */
export const DELETE: APIRoute = endpoint(async (context) => {
  await removeStepPhoto(await app(), context.locals.person, number(context.params.id), number(context.params.photo));
  return Response.json({ done: true });
});
