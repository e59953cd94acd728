import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { onePhoto } from '#server/photos/keep.ts';
import { takeStepPhoto } from '#server/photos/steps.ts';
import { app } from '#server/start.ts';

/** A photograph of a step, taken by its student: multipart, one file named `photo`, and step, time and key beside it. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { photo, values } = await onePhoto(a, context.request);
  const form = { step: values.step?.[0], key: values.key?.[0], at: values.at?.[0] };
  return Response.json({ photo: await takeStepPhoto(a, context.locals.person, number(context.params.id), photo, form) });
});
