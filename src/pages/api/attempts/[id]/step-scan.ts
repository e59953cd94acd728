import type { APIRoute } from 'astro';
import { bringStep } from '#server/at-bench/act.ts';
import { Refused } from '#server/errors.ts';
import { endpoint, number } from '#server/http.ts';
import { receive } from '#server/scans/receive.ts';
import { app } from '#server/start.ts';

/** A scan of a step, brought by its student: one file, and the step beside it. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { files, values } = await receive(context.request, a.files, 'scan', a.children.limits);
  if (files.length !== 1) throw new Refused('malformed', `Expected one scan, got ${files.length}. Choose the scan of this step.`);
  await bringStep(a, context.locals.person, number(context.params.id), values.step?.[0] ?? '', files[0]);
  return Response.json({ done: true });
});
