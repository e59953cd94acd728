import type { APIRoute } from 'astro';
import { Roster } from '#contract/roster.ts';
import { coursesFor, type Person } from '#server/access/table.ts';
import { planRoster } from '#server/course/roster.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** What a roster would change; nothing is written. */
export const POST: APIRoute = endpoint(async (context) => {
  const who = context.locals.person as Person;
  const roster = await body(context, Roster);
  return Response.json(await planRoster((await app()).db, context.params.id ?? '', roster, coursesFor(who, 'people.keep')));
});
