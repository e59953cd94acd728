import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { Refused } from '#server/errors.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({ student: v.string() });

/** Starts the simulated scanner for one student; the file arrives in the tray like any other. */
export const POST: APIRoute = endpoint(async (context) => {
  const { student } = await body(context, Wanted);
  const { person } = context.locals;
  const started = person && (await (await app()).scanner.start(context.params.id as string, student, person));
  if (!started)
    throw new Refused('not-there', 'The simulated scanner knows this sitting’s tooth or this student not. Bring a scan file instead.');
  return Response.json(started, { status: 202 });
});
