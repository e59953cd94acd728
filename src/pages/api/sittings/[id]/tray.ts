import type { APIRoute } from 'astro';
import { app } from '#server/app.ts';
import { allow, endpoint } from '#server/http.ts';
import { trayOf } from '#server/view/tray.ts';

export const GET: APIRoute = endpoint(async (context) => {
  allow(context.locals.person, 'tray.see');
  const a = await app();
  const sitting = context.params.id as string;
  return Response.json({
    rows: await trayOf(a, sitting),
    waiting: a.jobs.waiting,
    coming: a.scanner.onTheWay(sitting),
  });
});
