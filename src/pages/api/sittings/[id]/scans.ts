import type { APIRoute } from 'astro';
import { app } from '#server/app.ts';
import { allow, endpoint, Refused } from '#server/http.ts';
import { bringScans } from '#server/records/bring.ts';

/** Files dropped on a tray: multipart, any number, each with a `student` beside it where the name alone does not say whose it is. Answers with one line a file. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.bring');
  const form = await context.request.formData();
  const files = form.getAll('scan').filter((f): f is File => f instanceof File);
  if (!files.length) throw new Refused(400, 'No file came with this. Choose one or more scans.');
  const chosen = form.getAll('student').map(String);
  const read = await Promise.all(
    files.map(async (f, i) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()), student: chosen[i] || null })),
  );
  return Response.json({ files: await bringScans(await app(), context.params.id as string, read, person) });
});
