import type { APIRoute } from 'astro';
import { app } from '#server/app.ts';
import { allow, endpoint, Refused } from '#server/http.ts';
import { bringScans } from '#server/records/bring.ts';
import { receive } from '#server/store/receive.ts';

/** Files dropped on a tray: multipart, any number, each with a `student` beside it where the name alone does not say whose it is. Answers with one line a file. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.bring');
  const a = await app();
  const { files, values } = await receive(context.request, a.files, 'scan');
  if (!files.length) throw new Refused(400, 'No file came with this. Choose one or more scans.');
  const chosen = values.student ?? [];
  const brought = files.map((f, i) => ({ ...f, student: chosen[i] || null }));
  return Response.json({ files: await bringScans(a, context.params.id as string, brought, person) });
});
