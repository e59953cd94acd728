import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { setUnit } from '#server/masters/drafts.ts';
import { app } from '#server/start.ts';

const Unit = v.object({ factor: v.picklist([1, 1000, 25.4, 10, 0.001]) });

/** Says what the file's lengths are in. */
export const POST: APIRoute = endpoint(async (context) => {
  await setUnit(await app(), context.locals.person, context.params.id ?? '', (await body(context, Unit)).factor);
  return Response.json({ done: true });
});
