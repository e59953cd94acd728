import type { APIRoute } from 'astro';
import { beginSitting } from '#server/at-bench/act.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** A student begins this sitting at the bench. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json({ attempt: await beginSitting(await app(), context.locals.person, context.params.id ?? '') }),
);
