import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { OCCLUDED_BY, Point } from '#contract/master-draft.ts';
import { body, endpoint } from '#server/http.ts';
import { occlude } from '#server/masters/proof.ts';
import { app } from '#server/start.ts';

const Occluding = v.object({
  by: v.picklist(OCCLUDED_BY),
  settle: v.boolean(),
  pairs: v.nullable(v.pipe(v.array(v.object({ scan: Point, master: Point })), v.length(3))),
});

/** Brings the opposing arch to its place against the arch. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await occlude(await app(), context.locals.person, context.params.id ?? '', await body(context, Occluding))),
);
