import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';
import { allow, body, endpoint, number, Refused } from '#server/http.ts';
import { assignScan } from '#server/records/bring.ts';

/** Steering one scan: cancel, try again, or give it to a student. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.steer');
  const a = await app();
  const id = number(context.params.id);
  if (context.params.what === 'cancel') await a.jobs.cancel(id);
  else if (context.params.what === 'retry') {
    await a.db.run(
      sql`update scan set state = 'arrived', fault_code = null, fault_text = null, progress_share = 0 where id = ${id} and state in ('failed', 'cancelled') and attempt_id is not null`,
    );
    a.jobs.add(id);
  } else if (context.params.what === 'assign') {
    const { student } = await body(context, v.object({ student: v.string() }));
    await assignScan(a, id, student, person);
  } else throw new Refused(404, 'There is no such step.');
  return Response.json({ done: true });
});
