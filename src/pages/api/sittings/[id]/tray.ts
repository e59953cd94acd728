import type { APIRoute } from 'astro';
import { app } from '#server/app.ts';
import { allow, endpoint } from '#server/http.ts';
import { stateOf, trayRows } from '#server/view/tray.ts';

export const GET: APIRoute = endpoint(async (context) => {
  allow(context.locals.person, 'tray.see');
  const a = await app();
  const sitting = context.params.id as string;
  const rows = await trayRows(a.db, sitting);
  return Response.json({
    rows: rows.map((r) => ({ ...r, word: stateOf(r) })),
    waiting: a.jobs.waiting,
    coming: a.scanner.onTheWay(sitting),
  });
});
