import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { keepStandard, standardView } from '#server/course/standards.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** A standard as the course holds it, with its versions and rubrics. */
export const GET: APIRoute = endpoint(async (context) =>
  Response.json(await standardView(await app(), context.params.id ?? '', context.params.standard ?? '')),
);

const Edit = v.object({ body: v.unknown(), version: v.number() });

/** Keeps a changed standard as the course's next version of it. */
export const POST: APIRoute = endpoint(async (context) => {
  const { body: standard, version } = await body(context, Edit);
  const { id = '', standard: name = '' } = context.params;
  return Response.json({ version: await keepStandard(await app(), context.locals.person, id, name, standard, version) });
});
