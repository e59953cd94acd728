import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { allow, body, endpoint } from '#server/http.ts';
import { previewOf } from '#server/records/bring.ts';

const Names = v.object({ names: v.pipe(v.array(v.pipe(v.string(), v.maxLength(400))), v.maxLength(2000)) });

/** Whose the files of these names would be, before anything is sent. */
export const POST: APIRoute = endpoint(async (context) => {
  allow(context.locals.person, 'scan.bring');
  const { names } = await body(context, Names);
  return Response.json({ files: await previewOf(await app(), context.params.id as string, names) });
});
