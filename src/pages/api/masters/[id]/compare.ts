import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { compareWith } from '#server/masters/proof.ts';
import { app } from '#server/start.ts';

const With = v.object({ exercise: v.pipe(v.string(), v.maxLength(100)) });

/** What this master would change in an exercise, against the one that it measures on now. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await compareWith(await app(), context.locals.person, context.params.id ?? '', (await body(context, With)).exercise)),
);
