import type { APIRoute } from 'astro';
import { coursesFor, type Person } from '#server/access/table.ts';
import { askedFor } from '#server/at-bench/act.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Students who ask for a look, the longest waiting first. */
export const GET: APIRoute = endpoint(async (context) =>
  Response.json(await askedFor(await app(), coursesFor(context.locals.person as Person, 'attempt.judge'))),
);
