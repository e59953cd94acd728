import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';
import { allow, body, endpoint, Refused } from '#server/http.ts';
import { audit } from '#server/records/attempts.ts';

const Wanted = v.object({ student: v.string() });
const Id = v.object({ id: v.number() });

/** Opens an attempt that has no scan, to be graded by hand; one that is there already is simply found. */
export const POST: APIRoute = endpoint(async (context) => {
  const person = allow(context.locals.person, 'attempt.judge');
  const { student } = await body(context, Wanted);
  const a = await app();
  const sitting = context.params.id as string;
  const known = await a.db.maybeOne(v.object({ id: v.string() }), sql`select id from sitting where id = ${sitting}`);
  const who = await a.db.maybeOne(v.object({ id: v.string() }), sql`select id from person where id = ${student} and role = 'student'`);
  if (!known || !who) throw new Refused(404, known ? 'There is no such student.' : 'There is no such sitting.');
  const id = await a.db.transaction(async (q) => {
    const there = await q.maybeOne(Id, sql`select id from attempt where sitting_id = ${sitting} and student_id = ${student}`);
    if (there) return there.id;
    const made = await q.one(Id, sql`insert into attempt (sitting_id, student_id) values (${sitting}, ${student}) returning id`);
    await audit(q, person.id, 'attempt.open', `attempt ${made.id}, without a scan`);
    return made.id;
  });
  return Response.json({ attempt: id });
});
