import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { Marks, Stroke, Trusts } from '#contract/master-draft.ts';
import { body, endpoint } from '#server/http.ts';
import { keepMarks } from '#server/masters/drafts.ts';
import { draftById, draftView } from '#server/masters/rows.ts';
import { app } from '#server/start.ts';

/** A master in the making. */
export const GET: APIRoute = endpoint(async (context) =>
  Response.json(draftView(await draftById((await app()).db, context.params.id ?? ''))),
);

const Kept = v.object({
  version: v.number(),
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(120)),
  marks: Marks,
  strokes: v.pipe(v.array(Stroke), v.maxLength(5000)),
  trust: Trusts,
});

/** Keeps what was drawn on it. */
export const POST: APIRoute = endpoint(async (context) => {
  const version = await keepMarks(await app(), context.locals.person, context.params.id ?? '', await body(context, Kept));
  return Response.json({ version });
});
