import type { APIRoute } from 'astro';
import { may } from '#server/access/table.ts';
import { endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { gradesFor } from '#server/view/current.ts';

/** Signed versions with their digests, newest last; a student sees the released one. */
export const GET: APIRoute = endpoint(async (context) => {
  const { person, subject } = context.locals;
  const seesAll = subject !== null && may(person, 'score.see', { course: subject.course });
  return Response.json({ grades: await gradesFor((await app()).db, number(context.params.id), person, seesAll) });
});
