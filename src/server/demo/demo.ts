import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import type { MasterDescription } from '#core/master/master.ts';
import { loadMaster } from '../../files/master-files.ts';
import { COURSE, DEMO_PASSWORD, EXERCISES, type Exercise, SCHOOL, SITTINGS, STAFF, STUDENTS } from '../../seed/cast.ts';
import type { CohortFile } from '../../seed/cohort-file.ts';
import { CHECKS, CUTTERS_OF } from '../../seed/steps.ts';
import { hashPassword, personById } from '../account/sign-in.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { sql } from '../database/port.ts';
import { bringScans } from '../scans/bring.ts';
import { keepMaster } from '../scans/masters.ts';
import { cohortFile, seedPast } from './past.ts';

const Count = v.object({ n: v.number() });
const Known = v.object({ id: v.string() });
const KnownMaster = v.object({ id: v.string(), file_sha256: v.nullable(v.string()) });
const Version = v.object({ id: v.number() });

/** The weeks before, unless a start is to have none (journeys bring their own work). */
const weeks = (root: string): CohortFile | null => (process.env.VERITOR_DEMO_WEEKS === 'no' ? null : cohortFile(root));

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
      await q.run(sql`insert into school (name) values (${SCHOOL})`);
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
  await seedExercises(a, folder, root, weeks(root));
}

/**
 * Adds each demo exercise that is missing and whose master is known: its files are there, or the shipped weeks describe it, and its
 * files are made when they are first needed.
 */
async function seedExercises(a: App, folder: string, root: string, cohort: CohortFile | null): Promise<void> {
  const course = await a.db.maybeOne(Known, sql`select id from course order by id limit 1`);
  if (!course) return;
  for (const e of EXERCISES) {
    const dir = path.resolve(folder, 'masters', e.id);
    const hasFiles = existsSync(dir);
    const known = await a.db.maybeOne(
      KnownMaster,
      sql`select e.id, m.file_sha256 from exercise e join master m on m.id = e.master_id where e.id = ${e.id}`,
    );
    const description = known ? null : hasFiles ? (await loadMaster(dir)).description : (cohort?.masters[e.id] ?? null);
    if (description) await addExercise(a, course.id, e, rubricOf(root, e.rubric), description);
    if (hasFiles && (description || known?.file_sha256 === null)) await keepMaster(a.db, a.files, e.id, dir);
  }
}

const addExercise = (a: App, course: string, e: Exercise, rubric: RubricFile, description: MasterDescription): Promise<void> =>
  a.records.act(async (q, note) => {
    await q.run(
      sql`insert into master (id, name, tooth, description) values (${e.id}, ${description.name}, ${description.tooth}, ${description})`,
    );
    await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${rubric.id}, 1, ${rubric}) on conflict do nothing`);
    const version = await q.one(Version, sql`select id from rubric_version where rubric_id = ${rubric.id} and version = 1`);
    await q.run(
      sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id, minutes, steps, checks, cutters) values (${e.id}, ${course}, ${e.title}, ${e.tooth}, ${e.kind}, ${e.id}, ${version.id}, ${e.minutes}, ${JSON.stringify(e.steps)}::jsonb, ${JSON.stringify(CHECKS)}::jsonb, ${JSON.stringify(CUTTERS_OF[e.kind])}::jsonb)`,
    );
    for (const s of SITTINGS.filter((t) => t.exercise === e.id))
      await q.run(sql`insert into sitting (id, exercise_id, title, held_on) values (${s.id}, ${e.id}, ${s.title}, ${s.heldOn})`);
    await note({ person: null, action: 'exercise.add', subject: `exercise ${e.id}`, rows: await vouch(q, 'rubric_version', version.id) });
  });

/** Brings the week on the bench as it is scanned, and meanwhile the weeks before. */
export async function seedWork(a: App, folder: string, root: string): Promise<void> {
  const cohort = weeks(root);
  await Promise.all([cohort ? seedPast(a, cohort) : null, seedWeek(a, folder, root, cohort)]);
}

async function seedWeek(a: App, folder: string, root: string, cohort: CohortFile | null): Promise<void> {
  const assistant = await personById(a.db, 'A1');
  const alreadyAdded = new Set<string>();
  for (;;) {
    const isLast = existsSync(path.join(folder, 'complete'));
    await seedExercises(a, folder, root, cohort);
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
    if (isLast) return;
    await pause(500);
  }
}
