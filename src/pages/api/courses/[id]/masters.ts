import type { APIRoute } from 'astro';
import { INNER } from '#contract/master-draft.ts';
import { Refused } from '#server/errors.ts';
import { endpoint } from '#server/http.ts';
import { bringArch } from '#server/masters/drafts.ts';
import { bringShared } from '#server/masters/shared.ts';
import { receive } from '#server/scans/receive.ts';
import { app } from '#server/start.ts';

/** Brings an unprepared arch: multipart, files named `mesh`, for each a `role` (arch, opposing, bite, dej, caries, pulp; or shared: a whole master as zip), `name` and `tooth`. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { files, values } = await receive(context.request, a.files, 'mesh', { ...a.children.limits, entries: 6 });
  if (!files.length) throw new Refused('malformed', 'No file came with this. Choose the scan of the unprepared arch: STL, PLY or OBJ.');
  // Each file says what it is by the value of `role` at its place; without any, the first is the arch and the second bites against it.
  const byRole = new Map(files.map((f, i) => [values.role?.[i] ?? ['arch', 'opposing'][i], f]));
  const shared = byRole.get('shared');
  if (shared) return Response.json({ id: await bringShared(a, context.locals.person, context.params.id ?? '', shared) });
  const id = await bringArch(a, context.locals.person, context.params.id ?? '', {
    name: values.name?.[0] ?? '',
    tooth: values.tooth?.[0] ?? '',
    arch: byRole.get('arch') ?? files[0],
    opposing: byRole.get('opposing') ?? null,
    bite: byRole.get('bite') ?? null,
    inner: Object.fromEntries(INNER.flatMap((k) => (byRole.has(k) ? [[k, byRole.get(k)]] : []))),
  });
  return Response.json({ id });
});
