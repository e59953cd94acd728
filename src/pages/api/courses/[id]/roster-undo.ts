import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { undoRoster } from '#server/course/roster.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const Undo = v.object({ roster: v.pipe(v.string(), v.maxLength(40)) });

/** Takes a roster back. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await undoRoster(await app(), context.locals.person, context.params.id ?? '', (await body(context, Undo)).roster)),
);
