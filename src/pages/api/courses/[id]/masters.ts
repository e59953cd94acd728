import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { endpoint } from '#server/http.ts';
import { bringArch } from '#server/masters/drafts.ts';
import { receive } from '#server/scans/receive.ts';
import { app } from '#server/start.ts';

/** Brings an unprepared arch: multipart, files named `mesh` (the arch, then what bites against it), `name` and `tooth`. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { files, values } = await receive(context.request, a.files, 'mesh', { ...a.children.limits, entries: 2 });
  if (!files.length) throw new Refused('malformed', 'No file came with this. Choose the scan of the unprepared arch: STL, PLY or OBJ.');
  const id = await bringArch(a, context.locals.person, context.params.id ?? '', {
    name: values.name?.[0] ?? '',
    tooth: values.tooth?.[0] ?? '',
    arch: files[0],
    opposing: files[1] ?? null,
  });
  return Response.json({ id });
});
