import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { takeMarks } from '#server/masters/proof.ts';
import { app } from '#server/start.ts';

const From = v.object({ from: v.pipe(v.string(), v.maxLength(100)) });

/** Takes over the marks of another master. */
export const POST: APIRoute = endpoint(async (context) => {
  await takeMarks(await app(), context.locals.person, context.params.id ?? '', (await body(context, From)).from);
  return Response.json({ done: true });
});
