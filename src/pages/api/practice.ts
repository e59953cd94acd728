import type { APIRoute } from 'astro';
import { Practised } from '#contract/work.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';
import { practise } from '#server/student/assess.ts';

/** Ticks off a drill for today. */
export const POST: APIRoute = endpoint(async (context) => {
  const today = new Date().toISOString().slice(0, 10);
  await practise(await app(), context.locals.person, await body(context, Practised), today);
  return Response.json({ done: today });
});
