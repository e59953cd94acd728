import type { APIRoute } from 'astro';
import { releaseSitting } from '#server/grading/release.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Releases every signed attempt of a sitting and lists the attempts left out. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await releaseSitting((await app()).records, context.locals.person, context.params.id as string)),
);
