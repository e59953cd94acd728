import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { chooseMeasurement } from '#server/grading/measurement.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({ measurement: v.pipe(v.number(), v.integer()) });

/** Chooses the measurement that the attempt is graded on. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { measurement } = await body(context, Wanted);
  await chooseMeasurement(a.records, context.locals.person, number(context.params.id), measurement);
  return Response.json({ measurement });
});
