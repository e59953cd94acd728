import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { fromThreePoints } from '#core/align/three-points.ts';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';
import { allow, body, endpoint, number, Refused } from '#server/http.ts';
import { audit } from '#server/records/attempts.ts';
import { assignScan } from '#server/records/bring.ts';

const Point = v.tuple([v.pipe(v.number(), v.finite()), v.pipe(v.number(), v.finite()), v.pipe(v.number(), v.finite())]);
const Pairs = v.object({ pairs: v.pipe(v.array(v.object({ scan: Point, master: Point })), v.length(3)) });

/** What the page for setting three points shows: scan and master, each in its own frame. */
export const GET: APIRoute = endpoint(async (context) => {
  allow(context.locals.person, 'scan.steer');
  const id = number(context.params.id);
  const file = context.params.what === 'pair' ? await (await app()).jobs.pair(id) : null;
  if (!file) throw new Refused(404, 'There is no such part of a scan.');
  return new Response(file as BodyInit, { headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-store' } });
});

/** Steering one scan: cancel, try again, give it to a student, or lay it on its master by three points. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'scan.steer');
  const a = await app();
  const id = number(context.params.id);
  if (context.params.what === 'cancel') await a.jobs.cancel(id);
  else if (context.params.what === 'retry') {
    await a.db.run(
      sql`update scan set state = 'arrived', fault_code = null, fault_text = null where id = ${id} and state in ('failed', 'cancelled') and attempt_id is not null`,
    );
    a.jobs.add(id);
  } else if (context.params.what === 'assign') {
    const { student } = await body(context, v.object({ student: v.string() }));
    await assignScan(a, id, student, person);
  } else if (context.params.what === 'pose') {
    const { pairs } = await body(context, Pairs);
    const pose = fromThreePoints(pairs);
    if (!pose)
      throw new Refused(
        422,
        'The three points lie too close together or in a line. Choose points far apart: one on each neighbour, one on the tooth.',
      );
    await a.db.transaction(async (q) => {
      await q.run(
        sql`update scan set hand_pose = ${pose}, posed_by = ${person.id}, state = 'arrived', fault_code = null, fault_text = null where id = ${id} and attempt_id is not null and state <> 'measuring'`,
      );
      await audit(q, person.id, 'scan.pose', `scan ${id}`);
    });
    a.jobs.add(id);
  } else throw new Refused(404, 'There is no such step.');
  return Response.json({ done: true });
});
