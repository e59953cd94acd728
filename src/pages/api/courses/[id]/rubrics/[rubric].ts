import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { keepRubric, rubricView } from '#server/course/rubrics.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** A rubric with what past attempts read at its targets. */
export const GET: APIRoute = endpoint(async (context) =>
  Response.json(await rubricView(await app(), context.params.id ?? '', context.params.rubric ?? '')),
);

const Edit = v.object({ body: v.unknown(), version: v.number() });

/** Keeps a changed rubric as its next version. */
export const POST: APIRoute = endpoint(async (context) => {
  const { body: rubric, version } = await body(context, Edit);
  const { id = '', rubric: name = '' } = context.params;
  return Response.json({ version: await keepRubric(await app(), context.locals.person, id, name, rubric, version) });
});
