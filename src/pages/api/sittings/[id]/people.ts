import type { APIRoute } from 'astro';
import { SittingPeople } from '#contract/course.ts';
import { setSittingPeople, sittingPeople } from '#server/course/sitting-people.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

export const GET: APIRoute = endpoint(async (context) => Response.json(await sittingPeople((await app()).db, context.params.id ?? '')));
export const POST: APIRoute = endpoint(async (context) => {
  await setSittingPeople(await app(), context.locals.person, context.params.id ?? '', await body(context, SittingPeople));
  return Response.json({ done: true });
});
