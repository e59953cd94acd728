import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';
import { trayOf } from '#server/view/tray.ts';

/** A sitting's tray. Answers 304 to the ETag of an unchanged tray. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const { person, subject } = context.locals;
  const sitting = context.params.id as string;
  const headers = { ETag: a.pulse.tag, 'Cache-Control': 'private, no-cache' };
  if (context.request.headers.get('if-none-match') === headers.ETag) return new Response(null, { status: 304, headers });
  if (!person || !subject) return new Response(null, { status: 404 });
  const rows = await trayOf(a, sitting, person, subject.course);
  return Response.json({ rows, waiting: a.jobs.waiting, coming: a.scanner.onTheWay(sitting) }, { headers });
});
