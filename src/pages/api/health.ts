import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';

/** Ready when the database answers. */
export const GET: APIRoute = async () => {
  try {
    await (await app()).db.one(v.object({ ok: v.number() }), sql`select 1 as ok`);
    return Response.json({ ready: true });
  } catch (e) {
    return Response.json({ ready: false, message: (e as Error).message }, { status: 503 });
  }
};
