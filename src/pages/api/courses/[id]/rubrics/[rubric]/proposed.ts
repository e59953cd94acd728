import type { APIRoute } from 'astro';
import { rubricView } from '#server/course/rubrics.ts';
import { proposedAgain } from '#server/course/standards.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The rubric as its standard would propose it now. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { id = '', rubric = '' } = context.params;
  const { body } = await rubricView(a, id, rubric);
  return Response.json(await proposedAgain(a, id, body));
});
