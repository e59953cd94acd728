import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { allow, body, endpoint, Refused } from '#server/http.ts';

const Wanted = v.object({ student: v.string() });

/** Lets the simulated scanner cut and scan one student's preparation; the file arrives in the tray like any other. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.bring');
  const { student } = await body(context, Wanted);
  const started = await (await app()).scanner.start(context.params.id as string, student, person);
  if (!started) throw new Refused(404, 'The simulated scanner knows this sitting’s tooth or this student not. Bring a scan file instead.');
  return Response.json(started, { status: 202 });
});
