import type { APIRoute } from 'astro';
import { BenchEvents } from '#contract/at-bench.ts';
import { takeEvents } from '#server/at-bench/act.ts';
import { atBench } from '#server/at-bench/state.ts';
import { Refused } from '#server/errors.ts';
import { attemptById } from '#server/grading/rows.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Where an attempt stands at the bench. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  const attempt = await attemptById(a.db, id);
  if (!attempt) throw new Refused('not-there', 'There is no such attempt.');
  return Response.json(await atBench(a, id, attempt.student_id === context.locals.person?.id));
});

/** What happened there since; what was sent before is taken once. */
export const POST: APIRoute = endpoint(async (context) => {
  const { events } = await body(context, BenchEvents);
  return Response.json(await takeEvents(await app(), context.locals.person, number(context.params.id), events));
});
