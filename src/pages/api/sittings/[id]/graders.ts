import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { allow, body, endpoint } from '#server/http.ts';
import { shareOut } from '#server/records/graders.ts';

const Wanted = v.object({
  attempts: v.pipe(v.array(v.pipe(v.number(), v.integer())), v.minLength(1, 'choose at least one attempt'), v.maxLength(2000)),
  graders: v.pipe(v.array(v.string()), v.maxLength(50)),
});

/** Shares attempts out among graders, or takes them back. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'attempt.assign');
  const wanted = await body(context, Wanted);
  await shareOut((await app()).db, context.params.id as string, wanted, person.id);
  return Response.json({ shared: wanted.attempts.length });
});
