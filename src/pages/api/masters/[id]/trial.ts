import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { tryMaster } from '#server/masters/proof.ts';
import { app } from '#server/start.ts';

/** A trial preparation in this master: what was cut, what was read. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await tryMaster(await app(), context.locals.person, context.params.id ?? '')),
);
