import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { Roster } from '#contract/roster.ts';
import { rosterCsv } from '#server/course/out.ts';
import { applyRoster } from '#server/course/roster.ts';
import { membersOf } from '#server/course/view.ts';
import { download } from '#server/files-out.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The people of a course as CSV. */
export const GET: APIRoute = endpoint(async (context) => {
  const id = context.params.id ?? '';
  return download(rosterCsv(await membersOf((await app()).db, id)), 'text/csv; charset=utf-8', `roster-${id}.csv`);
});

const Applied = v.object({ roster: Roster, seen: v.string() });

/** Takes a roster in as it was seen in its preview. */
export const POST: APIRoute = endpoint(async (context) => {
  const { roster, seen } = await body(context, Applied);
  return Response.json(await applyRoster(await app(), context.locals.person, context.params.id ?? '', roster, seen));
});
