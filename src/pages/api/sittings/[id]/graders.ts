import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { shareOut } from '#server/course/graders.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({
  attempts: v.pipe(v.array(v.pipe(v.number(), v.integer())), v.minLength(1, 'choose at least one attempt'), v.maxLength(2000)),
  graders: v.pipe(v.array(v.string()), v.maxLength(50)),
});

/** Shares attempts out among graders, or takes them back. */
export const POST: APIRoute = endpoint(async (context) => {
  const wanted = await body(context, Wanted);
  await shareOut((await app()).records, context.locals.person, context.params.id as string, wanted);
  return Response.json({ shared: wanted.attempts.length });
});
