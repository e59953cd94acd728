import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { rubricFromStandard } from '#server/course/standards.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const New = v.object({
  id: v.pipe(v.string(), v.regex(/^[a-z0-9][a-z0-9-]{1,60}$/, 'A short name has small letters, digits and dashes.')),
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the rubric a name.'), v.maxLength(120)),
  style: v.picklist(['practice', 'examination']),
});

/** Proposes a new rubric from a standard. */
export const POST: APIRoute = endpoint(async (context) => {
  const { id = '', standard = '' } = context.params;
  return Response.json({ id: await rubricFromStandard(await app(), context.locals.person, id, standard, await body(context, New)) });
});
