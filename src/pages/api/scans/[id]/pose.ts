import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint, number } from '#server/http.ts';
import { poseScan } from '#server/scans/steer.ts';
import { app } from '#server/start.ts';

const finite = v.pipe(v.number(), v.finite());
const Point = v.tuple([finite, finite, finite]);
const Pairs = v.object({ pairs: v.pipe(v.array(v.object({ scan: Point, master: Point })), v.length(3)) });

/** Aligns a scan by three pairs of points and measures it once more. */
export const POST: APIRoute = endpoint(async (context) => {
  const { pairs } = await body(context, Pairs);
  await poseScan(await app(), context.locals.person, number(context.params.id), pairs);
  return Response.json({ done: true });
});
