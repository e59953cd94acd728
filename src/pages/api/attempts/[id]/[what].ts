import type { APIRoute } from 'astro';
import { gzipSync } from 'fflate';
import * as v from 'valibot';
import { forTooth } from '#core/score/expand.ts';
import { unitOf } from '#core/score/hand.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { app } from '#server/app.ts';
import { sql } from '#server/database/database.ts';
import { allow, body, endpoint, number, Refused } from '#server/http.ts';
import { attemptById, audit, judgementsOf, shownMeasurement } from '#server/records/attempts.ts';
import { evidenceOf, Method } from '#server/records/evidence.ts';
import { setPin, takePin } from '#server/records/pins.ts';
import { signAttempt } from '#server/records/sign.ts';
import { displayPlace, scoreView } from '#server/view/bench.ts';

async function found(id: number) {
  const a = await app();
  const attempt = await attemptById(a.db, id);
  if (!attempt) throw new Refused(404, 'There is no such attempt.');
  return { a, attempt, subject: { studentId: attempt.student_id, released: attempt.released_at !== null } };
}

/** What the Bench draws: the display mesh, the profiles, the picture. Named by content, so browsers may keep them. */
export const GET: APIRoute = endpoint(async (context) => {
  const { a, attempt, subject } = await found(number(context.params.id));
  allow(context.locals.person, context.params.what === 'picture' ? 'picture.see' : 'attempt.see', subject);
  const m = await shownMeasurement(a.db, attempt.id);
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

const Comment = v.object({ criterion: v.string(), comment: v.pipe(v.string(), v.maxLength(2000)) });
const place = v.pipe(v.number(), v.finite(), v.minValue(-60), v.maxValue(60));
const Pin = v.union([
  v.object({ remove: v.pipe(v.number(), v.integer()) }),
  v.object({ criterion: v.string(), point: v.tuple([place, place, place]), note: v.pipe(v.string(), v.maxLength(300)) }),
]);
const figure = v.nullable(v.pipe(v.number(), v.finite(), v.minValue(-90), v.maxValue(180)));
const Hand = v.object({
  reading: v.string(),
  zone: v.nullable(v.string()),
  stat: v.string(),
  method: Method,
  lo: figure,
  hi: figure,
});

export const POST: APIRoute = endpoint(async (context) => {
  const { a, attempt, subject } = await found(number(context.params.id));
  const step = context.params.what;
  if (step === 'judge') {
    const person = allow(context.locals.person, 'attempt.judge', subject);
    const j = await body(context, Judge);
    const found = await evidenceOf(a.db, attempt.id);
    const before = scoreView(attempt, found, []);
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
    return Response.json(scoreView(attempt, found, await judgementsOf(a.db, attempt.id)));
  }
  if (step === 'comment') {
    const person = allow(context.locals.person, 'attempt.judge', subject);
    const c = await body(context, Comment);
    if (![...attempt.rubric.criteria, ...attempt.rubric.critical].some((q) => q.id === c.criterion))
      throw new Refused(404, 'The rubric has no such criterion.');
    await a.db.run(
      sql`insert into judgement (attempt_id, criterion_id, comment, person_id) values (${attempt.id}, ${c.criterion}, ${c.comment.trim() || null}, ${person.id})
          on conflict (attempt_id, criterion_id) do update set comment = excluded.comment, person_id = excluded.person_id, made_at = now()`,
    );
    return Response.json(scoreView(attempt, await evidenceOf(a.db, attempt.id), await judgementsOf(a.db, attempt.id)));
  }
  if (step === 'hand') {
    const person = allow(context.locals.person, 'attempt.judge', subject);
    const h = await body(context, Hand);
    const targets = forTooth(attempt.rubric as Rubric, attempt.master.cusps, (await evidenceOf(a.db, attempt.id)).scanned as never);
    const asked = [...targets.criteria.flatMap((c) => c.targets), ...targets.critical];
    if (!asked.some((t) => t.reading === h.reading && t.zone === h.zone && t.stat === h.stat))
      throw new Refused(404, 'The rubric does not ask for this reading.');
    if (h.lo !== null && h.hi !== null && h.lo > h.hi) throw new Refused(422, 'The lower figure must not exceed the upper one.');
    await a.db.transaction(async (q) => {
      await q.run(
        sql`delete from hand_reading where attempt_id = ${attempt.id} and name = ${h.reading} and zone = ${h.zone ?? ''} and stat = ${h.stat}`,
      );
      if (h.lo !== null && h.hi !== null)
        await q.run(
          sql`insert into hand_reading (attempt_id, name, zone, stat, method, unit, lo, hi, person_id) values (${attempt.id}, ${h.reading}, ${h.zone ?? ''}, ${h.stat}, ${h.method}, ${unitOf(h.reading)}, ${h.lo}, ${h.hi}, ${person.id})`,
        );
      await audit(q, person.id, 'attempt.hand', `attempt ${attempt.id}, ${h.reading} ${h.zone ?? ''}: ${h.lo ?? 'taken back'}`);
    });
    return Response.json(scoreView(attempt, await evidenceOf(a.db, attempt.id), await judgementsOf(a.db, attempt.id)));
  }
  if (step === 'pin') {
    const person = allow(context.locals.person, 'attempt.judge', subject);
    const p = await body(context, Pin);
    if ('remove' in p) await takePin(a.db, attempt.id, p.remove);
    else {
      if (!attempt.rubric.criteria.some((q) => q.id === p.criterion)) throw new Refused(404, 'The rubric has no such criterion.');
      const point = displayPlace(attempt).inFile(p.point);
      await a.db.transaction(async (q) => {
        await setPin(q, attempt.id, { criterion: p.criterion, point: [point[0], point[1], point[2]], note: p.note.trim() }, person.id);
        await audit(q, person.id, 'attempt.pin', `attempt ${attempt.id}, ${p.criterion}`);
      });
    }
    return Response.json(scoreView(attempt, await evidenceOf(a.db, attempt.id), await judgementsOf(a.db, attempt.id)));
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
