import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { useMaster } from '#server/masters/finish.ts';
import { app } from '#server/start.ts';

const Use = v.object({ exercise: v.pipe(v.string(), v.maxLength(100)) });

/** An exercise measures its next scans on this master. */
export const POST: APIRoute = endpoint(async (context) => {
  await useMaster(await app(), context.locals.person, context.params.id ?? '', (await body(context, Use)).exercise);
  return Response.json({ done: true });
});
