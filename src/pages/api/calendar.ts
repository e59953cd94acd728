import type { APIRoute } from 'astro';
import { coursesFor, type Person } from '#server/access/table.ts';
import { schoolName } from '#server/account/first-start.ts';
import { calendarOf } from '#server/course/out.ts';
import { sittingsIn } from '#server/course/view.ts';
import { download } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The sittings of one's courses as a calendar file. */
export const GET: APIRoute = endpoint(async (context) => {
  const { db } = await app();
  const sittings = await sittingsIn(db, coursesFor(context.locals.person as Person, 'calendar.see'));
  return download(calendarOf(sittings, await schoolName(db)), 'text/calendar; charset=utf-8', 'sittings.ics');
});
