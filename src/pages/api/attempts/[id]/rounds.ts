import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { giveRound } from '#server/course/graders.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';

const Wanted = v.object({ round: v.picklist([2, 3]), grader: v.string() });

/** Gives the attempt to a second grader, or to whoever settles between two. */
export const POST: APIRoute = endpoint(async (context) => {
  const { round, grader } = await body(context, Wanted);
  await giveRound((await app()).records, context.locals.person, number(context.params.id), round, grader);
  return Response.json({ round, grader });
});
