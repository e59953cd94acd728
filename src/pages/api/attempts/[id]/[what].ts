import type { APIRoute } from 'astro';
import { gzipSync } from 'fflate';
import * as v from 'valibot';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';
import { allow, body, endpoint, number, Refused } from '#server/http.ts';
import { attemptById, audit, judgementsOf, latestMeasurement, readingsOf } from '#server/records/attempts.ts';
import { signAttempt } from '#server/records/sign.ts';
import { scoreView } from '#server/view/bench.ts';

async function found(id: number) {
  const a = await app();
  const attempt = await attemptById(a.db, id);
  if (!attempt) throw new Refused(404, 'There is no such attempt.');
  return { a, attempt, subject: { studentId: attempt.student_id, released: attempt.released_at !== null } };
}

/** What the Bench draws: the display mesh, the profiles, the picture. Named by content, so browsers may keep them. */
export const GET: APIRoute = endpoint(async (context) => {
  const { a, attempt, subject } = await found(number(context.params.id));
  allow(context.locals.person, 'attempt.see', subject);
  const m = await latestMeasurement(a.db, attempt.id);
  if (!m) throw new Refused(404, 'This attempt has not been measured.');
  const keep = { 'Cache-Control': 'private, max-age=31536000, immutable' };
  const send = (bytes: Uint8Array, type: string, zip: boolean): Response =>
    new Response((zip ? gzipSync(bytes, { level: 1 }) : bytes) as BodyInit, {
      headers: { ...keep, 'Content-Type': type, ...(zip ? { 'Content-Encoding': 'gzip' } : {}) },
    });
  if (context.params.what === 'display') return send(a.files.read(m.display_sha256), 'application/octet-stream', true);
  if (context.params.what === 'profiles') return send(a.files.read(m.profiles_sha256), 'application/json', true);
  if (context.params.what === 'picture') return send(a.files.read(m.picture_sha256), 'image/png', false);
  throw new Refused(404, 'There is no such part of an attempt.');
});

const Judge = v.object({
  criterion: v.string(),
  level: v.optional(v.nullable(v.picklist([0, 1, 2, 3])), null),
  waived: v.optional(v.boolean(), false),
  reason: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(500))), null),
  comment: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(2000))), null),
});

export const POST: APIRoute = endpoint(async (context) => {
  const { a, attempt, subject } = await found(number(context.params.id));
  const step = context.params.what;
  if (step === 'judge') {
    const person = allow(context.locals.person, 'attempt.judge', subject);
    const j = await body(context, Judge);
    const m = await latestMeasurement(a.db, attempt.id);
    const readings = m ? await readingsOf(a.db, m.id) : [];
    const before = scoreView(attempt, readings, []);
    const criterion = before.criteria.find((c) => c.id === j.criterion);
    if (!criterion && !before.critical.some((c) => c.id === j.criterion)) throw new Refused(404, 'The rubric has no such criterion.');
    const reason = j.reason?.trim() || null;
    // The computed level may be confirmed without a word; another one, or striking out a critical error, needs its reason.
    const differs = criterion ? j.level !== null && criterion.computed !== null && j.level !== criterion.computed : j.waived;
    if (differs && !reason) throw new Refused(422, 'Say in a few words why your level differs from the measured one.');
    await a.db.transaction(async (q) => {
      await q.run(
        sql`insert into judgement (attempt_id, criterion_id, level, waived, reason, comment, person_id) values (${attempt.id}, ${j.criterion}, ${j.level}, ${j.waived}, ${differs ? reason : null}, ${j.comment}, ${person.id})
            on conflict (attempt_id, criterion_id) do update set level = excluded.level, waived = excluded.waived, reason = excluded.reason, comment = coalesce(excluded.comment, judgement.comment), person_id = excluded.person_id, made_at = now()`,
      );
      await audit(
        q,
        person.id,
        'attempt.judge',
        `attempt ${attempt.id}, ${j.criterion}: ${j.level ?? (j.waived ? 'struck out' : 'as measured')}`,
      );
    });
    return Response.json(scoreView(attempt, readings, await judgementsOf(a.db, attempt.id)));
  }
  if (step === 'sign') {
    const person = allow(context.locals.person, 'attempt.sign', subject);
    return Response.json(await signAttempt(a.db, attempt.id, person));
  }
  if (step === 'release') {
    const person = allow(context.locals.person, 'attempt.release', subject);
    await a.db.transaction(async (q) => {
      const { n } = await q.one(v.object({ n: v.number() }), sql`select count(*) as n from grade where attempt_id = ${attempt.id}`);
      if (n === 0) throw new Refused(409, 'Sign the attempt first; only signed grades are released.');
      await q.run(sql`update attempt set released_at = now() where id = ${attempt.id} and released_at is null`);
      await audit(q, person.id, 'attempt.release', `attempt ${attempt.id}`);
    });
    return Response.json({ released: true });
  }
  throw new Refused(404, 'There is no such step.');
});
