import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { body, endpoint } from '#server/http.ts';
import { previewOf } from '#server/scans/bring.ts';
import { app } from '#server/start.ts';

const Names = v.object({ names: v.pipe(v.array(v.pipe(v.string(), v.maxLength(400))), v.maxLength(2000)) });

/** Previews which students files of these names belong to, before anything is sent. */
export const POST: APIRoute = endpoint(async (context) => {
  const { names } = await body(context, Names);
  return Response.json({ files: await previewOf(await app(), context.params.id as string, names) });
});
