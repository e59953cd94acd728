import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { endpoint } from '#server/http.ts';
import { bringScans } from '#server/scans/bring.ts';
import { receive } from '#server/scans/receive.ts';
import { app } from '#server/start.ts';

/** Files dropped on a tray: multipart, any number, each with a `student` beside it where the name alone does not say whose it is. Answers with one line per file. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { files, values } = await receive(context.request, a.files, 'scan', a.children.limits);
  if (!files.length) throw new Refused('malformed', 'No file came with this. Choose one or more scans.');
  const chosen = values.student ?? [];
  const uploads = files.map((f, i) => ({ ...f, student: chosen[i] || null }));
  return Response.json({ files: await bringScans(a, context.params.id as string, uploads, context.locals.person) });
});
