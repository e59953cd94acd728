import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { checked } from '#contract/check.ts';
import { RubricFile } from '#contract/rubric.ts';
import { loadMaster } from '../files/master-files.ts';
import { DEMO_PASSWORD, EXERCISES, SITTINGS, STAFF, STUDENTS } from '../seed/cast.ts';
import { hashPassword } from './access/sign-in.ts';
import type { App } from './app.ts';
import { sql } from './database/database.ts';
import { bringScans } from './records/bring.ts';
import { signAttempt } from './records/sign.ts';

const Count = v.object({ n: v.number() });
const Known = v.object({ id: v.string() });
const Ready = v.object({ id: v.number() });

const rubricOf = (folder: string, id: string): RubricFile => {
  const file = path.join(folder, `${id}.json`);
  return checked(RubricFile, JSON.parse(readFileSync(file, 'utf8')), 'rubric.invalid', file, 'Correct the file.');
};

/** Fills an empty database with the demo school and the exercises whose masters are there already; the rest follow. */
export async function seedPeople(a: App, folder: string, rubrics: string): Promise<void> {
  if ((await a.db.one(Count, sql`select count(*) as n from person`)).n === 0) {
    // Everyone of the demo shares one password and so one hash: forty would take four seconds.
    const hash = await hashPassword(DEMO_PASSWORD);
    await a.db.transaction(async (q) => {
      const people = [...STAFF.map((p) => ({ ...p, bench: null })), ...STUDENTS.map((s) => ({ ...s, role: 'student' }))];
      for (const p of people)
        await q.run(
          sql`insert into person (id, role, name, sign_in_name, password_hash, bench) values (${p.id}, ${p.role}, ${p.name}, ${p.signIn}, ${hash}, ${p.bench})`,
        );
    });
  }
  await seedExercises(a, folder, rubrics);
}

/** Sets up every exercise whose master has been made and that is not there yet. */
async function seedExercises(a: App, folder: string, rubrics: string): Promise<void> {
  for (const e of EXERCISES) {
    const dir = path.resolve(folder, 'masters', e.id);
    if (!existsSync(dir) || (await a.db.maybeOne(Known, sql`select id from exercise where id = ${e.id}`))) continue;
    const { description } = loadMaster(dir);
    const rubric = rubricOf(rubrics, e.rubric);
    await a.db.transaction(async (q) => {
      await q.run(
        sql`insert into master (id, name, tooth, folder, description) values (${e.id}, ${description.name}, ${description.tooth}, ${dir}, ${description})`,
      );
      await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${rubric.id}, 1, ${rubric}) on conflict do nothing`);
      await q.run(
        sql`insert into exercise (id, title, tooth, kind, master_id, rubric_version_id) values (${e.id}, ${e.title}, ${e.tooth}, ${e.task.kind}, ${e.id}, (select id from rubric_version where rubric_id = ${rubric.id} and version = 1))`,
      );
      for (const s of SITTINGS.filter((t) => t.exercise === e.id))
        await q.run(sql`insert into sitting (id, exercise_id, title, held_on) values (${s.id}, ${e.id}, ${s.title}, ${s.heldOn})`);
    });
  }
}

/** Brings the scans, newest sitting first, and signs and releases the earlier weeks once they are measured. */
export async function seedScans(a: App, folder: string, rubrics: string): Promise<void> {
  const assistant = { id: 'A1', role: 'assistant', name: 'Piet Lorne' } as const;
  const grader = { id: 'I2', role: 'instructor', name: 'Ines Caldera' } as const;
  const brought = new Set<string>();
  for (;;) {
    const last = existsSync(path.join(folder, 'complete'));
    await seedExercises(a, folder, rubrics);
    const open = new Set((await a.db.any(Known, sql`select id from sitting`)).map((r) => r.id));
    for (const s of [...SITTINGS].reverse()) {
      if (!open.has(s.id)) continue;
      const dir = path.join(folder, s.id);
      for (const name of existsSync(dir)
        ? readdirSync(dir)
            .filter((f) => f.endsWith('.stl'))
            .sort()
        : []) {
        const file = path.join(dir, name);
        if (brought.has(file)) continue;
        brought.add(file);
        await bringScans(a, s.id, [{ name, kept: await a.files.keep(readFileSync(file)) }], assistant);
      }
    }
    if (last) break;
    await pause(500);
  }
  // The weeks before the last are over: signed and released, as soon as they are measured.
  const past = SITTINGS.filter((s) => !s.id.endsWith('w6')).map((s) => s.id);
  for (;;) {
    const busy = a.jobs.waiting > 0;
    const ready = await a.db.any(
      Ready,
      sql`select a.id from attempt a join scan s on s.attempt_id = a.id left join grade g on g.attempt_id = a.id where s.state = 'measured' and g.id is null and a.sitting_id in (select json_array_elements_text(${past}::json)) order by a.id`,
    );
    for (const { id } of ready) {
      // What no reading decides would have been judged by eye at the time; the demo leaves such attempts open.
      const done = await signAttempt(a.db, id, grader).then(
        () => true,
        () => false,
      );
      if (done) await a.db.run(sql`update attempt set released_at = now(), grader_id = ${grader.id} where id = ${id}`);
    }
    if (!busy) return;
    await pause(2000);
  }
}
