import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { finishMaster } from '#server/masters/finish.ts';
import { app } from '#server/start.ts';

/** Ends the drawing: from now on the master can be used and stays as it is. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json({ master: await finishMaster(await app(), context.locals.person, context.params.id ?? '') }),
);
