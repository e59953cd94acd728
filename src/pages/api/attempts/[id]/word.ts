import type { APIRoute } from 'astro';
import { BenchWord } from '#contract/at-bench.ts';
import { giveWord } from '#server/at-bench/act.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** An instructor's word on a step, with initials. */
export const POST: APIRoute = endpoint(async (context) => {
  await giveWord(await app(), context.locals.person, number(context.params.id), await body(context, BenchWord));
  return Response.json({ done: true });
});
