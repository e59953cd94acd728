import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { previewRubric } from '#server/course/rubrics.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Whose marks a changed rubric would have moved. */
export const POST: APIRoute = endpoint(async (context) => {
  const { body: rubric } = await body(context, v.object({ body: v.unknown() }));
  return Response.json(await previewRubric(await app(), context.params.id ?? '', context.params.rubric ?? '', rubric));
});
