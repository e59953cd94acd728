import type { APIRoute } from 'astro';
import { app } from '#server/app.ts';
import { allow, endpoint, Refused } from '#server/http.ts';
import { bringScans } from '#server/records/bring.ts';

/** Files dropped on a tray: multipart, any number. Answers with one line a file. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.bring');
  const form = await context.request.formData();
  const files = form.getAll('scan').filter((f): f is File => f instanceof File);
  if (!files.length) throw new Refused(400, 'No file came with this. Choose one or more scans.');
  const read = await Promise.all(files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })));
  return Response.json({ files: await bringScans(await app(), context.params.id as string, read, person) });
});
