import type { APIRoute } from 'astro';
import { coursesFor, type Person } from '#server/access/table.ts';
import { found } from '#server/course/search.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Students, sittings and attempts whose names hold what is asked for. */
export const GET: APIRoute = endpoint(async (context) => {
  const who = context.locals.person as Person;
  const asked = (context.url.searchParams.get('q') ?? '').slice(0, 80);
  return Response.json(await found((await app()).db, coursesFor(who, 'tray.see'), asked, coursesFor(who, 'trail.list')));
});
