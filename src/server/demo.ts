import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { loadMaster } from '../files/master-files.ts';
import { COURSE, DEMO_PASSWORD, EXERCISES, SITTINGS, STAFF, STUDENTS } from '../seed/cast.ts';
import type { Person } from './access/table.ts';
import { hashPassword, personById } from './account/sign-in.ts';
import type { App } from './app.ts';
import { vouch } from './audit/chain.ts';
import { sql } from './database/port.ts';
import { clearCriticalErrors, judge } from './grading/judge.ts';
import { releaseAttempt } from './grading/release.ts';
import { signAttempt } from './grading/sign.ts';
import { bringScans } from './scans/bring.ts';
import { keepMaster } from './scans/masters.ts';
import { benchView } from './view/bench.ts';

const Count = v.object({ n: v.number() });
const Known = v.object({ id: v.string() });
const Ready = v.object({ id: v.number(), grader: v.string() });
const Version = v.object({ id: v.number() });

const rubricOf = (root: string, id: string): RubricFile => {
  const file = path.join(root, 'data/rubrics', `${id}.json`);
  return rubricFrom(JSON.parse(readFileSync(file, 'utf8')), `${id}.json`);
};

/** Fills an empty database with the demo school and the exercises whose masters are there already; the rest follow. */
export async function seedSchool(a: App, folder: string, root: string): Promise<void> {
  if ((await a.db.one(Count, sql`select count(*) as n from person`)).n === 0) {
    // All demo people share one password hash, because forty hashes would take four seconds.
    const hash = await hashPassword(DEMO_PASSWORD);
    await a.db.transaction(async (q) => {
      await q.run(
        sql`insert into course (id, name, term, starts_on, ends_on) values (${COURSE.id}, ${COURSE.name}, ${COURSE.term}, ${COURSE.startsOn}, ${COURSE.endsOn})`,
      );
      const people = [...STAFF.map((p) => ({ ...p, bench: null })), ...STUDENTS.map((s) => ({ ...s, role: 'student' }))];
      for (const p of people) {
        await q.run(sql`insert into person (id, name, sign_in_name, password_hash) values (${p.id}, ${p.name}, ${p.signIn}, ${hash})`);
        await q.run(sql`insert into enrolment (course_id, person_id, role, bench) values (${COURSE.id}, ${p.id}, ${p.role}, ${p.bench})`);
      }
    });
  }
  await seedExercises(a, folder, root);
}

/** Adds each demo exercise that is missing and whose master is ready. */
async function seedExercises(a: App, folder: string, root: string): Promise<void> {
  const course = await a.db.maybeOne(Known, sql`select id from course order by id limit 1`);
  for (const e of EXERCISES) {
    const dir = path.resolve(folder, 'masters', e.id);
    if (!course || !existsSync(dir) || (await a.db.maybeOne(Known, sql`select id from exercise where id = ${e.id}`))) continue;
    const { description } = await loadMaster(dir);
    const rubric = rubricOf(root, e.rubric);
    await a.records.act(async (q, note) => {
      await q.run(
        sql`insert into master (id, name, tooth, description) values (${e.id}, ${description.name}, ${description.tooth}, ${description})`,
      );
      await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${rubric.id}, 1, ${rubric}) on conflict do nothing`);
      const version = await q.one(Version, sql`select id from rubric_version where rubric_id = ${rubric.id} and version = 1`);
      await q.run(
        sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id) values (${e.id}, ${course.id}, ${e.title}, ${e.tooth}, ${e.task.kind}, ${e.id}, ${version.id})`,
      );
      for (const s of SITTINGS.filter((t) => t.exercise === e.id))
        await q.run(sql`insert into sitting (id, exercise_id, title, held_on) values (${s.id}, ${e.id}, ${s.title}, ${s.heldOn})`);
      await note({ person: null, action: 'exercise.add', subject: `exercise ${e.id}`, rows: await vouch(q, 'rubric_version', version.id) });
    });
    await keepMaster(a.db, a.files, e.id, dir);
  }
}

/** Brings the scans, newest sitting first; signs and releases the attempts of earlier weeks once they are measured. */
export async function seedWork(a: App, folder: string, root: string): Promise<void> {
  const assistant = await personById(a.db, 'A1');
  const alreadyAdded = new Set<string>();
  for (;;) {
    const isLast = existsSync(path.join(folder, 'complete'));
    await seedExercises(a, folder, root);
    const open = new Set((await a.db.any(Known, sql`select id from sitting`)).map((r) => r.id));
    for (const s of [...SITTINGS].reverse()) {
      if (!open.has(s.id)) continue;
      const dir = path.join(folder, s.id);
      const names = existsSync(dir) ? readdirSync(dir).filter((f) => f.endsWith('.stl')) : [];
      for (const name of names.sort()) {
        const file = path.join(dir, name);
        if (alreadyAdded.has(file)) continue;
        alreadyAdded.add(file);
        await bringScans(a, s.id, [{ name, kept: await a.files.keep(readFileSync(file)) }], assistant);
      }
    }
    if (isLast) break;
    await pause(500);
  }
  // Attempts of all weeks but the last are decided, signed and released as soon as they are measured.
  const past = SITTINGS.filter((s) => !s.id.endsWith('w6')).map((s) => s.id);
  for (;;) {
    const isBusy = a.jobs.waiting > 0;
    const ready = await a.db.any(
      Ready,
      sql`select a.id, coalesce(a.grader_id, 'I2') as grader from attempt a where exists (select 1 from graded_on c where c.attempt_id = a.id)
          and not exists (select 1 from grade g where g.attempt_id = a.id) and a.sitting_id in (select json_array_elements_text(${past}::json)) order by a.id`,
    );
    for (const { id, grader } of ready) {
      const person = await personById(a.db, grader);
      if (person) await grade(a, person, id);
    }
    if (!isBusy) return;
    await pause(1500);
  }
}

/**
 * Grades one attempt as a made-up instructor: lines too close to call take the measured level, lines without a reading the
 * second best.
 */
async function grade(a: App, person: Person, attempt: number): Promise<void> {
  const view = await benchView(a.db, attempt, person);
  if (!view) return;
  for (const c of view.score.criteria)
    if (c.decidedBy === null)
      await judge(a.records, person, attempt, {
        line: c.id,
        level: (c.computed ?? 2) as 0 | 1 | 2 | 3,
        made: null,
        reason: c.computed === null ? 'looked at under the light' : null,
      });
  await clearCriticalErrors(a.records, person, attempt);
  const now = await benchView(a.db, attempt, person);
  if (!now) return;
  await signAttempt(a.records, person, attempt, now.score.seen, a.standardsFolder);
  await releaseAttempt(a.records, person, attempt);
}
