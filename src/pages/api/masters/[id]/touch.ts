import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { Point } from '#contract/master-draft.ts';
import { body, endpoint } from '#server/http.ts';
import { touchTooth } from '#server/masters/drafts.ts';
import { app } from '#server/start.ts';

const Touch = v.object({ at: Point, mesialward: v.nullable(Point) });

/** Proposes parts and landmarks for the touched tooth. */
export const POST: APIRoute = endpoint(async (context) => {
  const { at, mesialward } = await body(context, Touch);
  await touchTooth(await app(), context.locals.person, context.params.id ?? '', at, mesialward);
  return Response.json({ done: true });
});
