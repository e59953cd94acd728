import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { checked } from '#contract/check.ts';
import { RubricFile } from '#contract/rubric.ts';
import { loadMaster } from '../files/master-files.ts';
import { DEMO_PASSWORD, SITTINGS, STAFF, STUDENTS } from '../seed/cast.ts';
import { hashPassword } from './access/sign-in.ts';
import type { App } from './app.ts';
import { sql } from './database/database.ts';
import { bringScans } from './records/bring.ts';
import { signAttempt } from './records/sign.ts';

const Count = v.object({ n: v.number() });
const Ready = v.object({ id: v.number() });

/** Fills an empty database with the demo school, and takes the demo's scans in as the assistant would. */
export async function seedPeople(a: App, folder: string, rubricFile: string): Promise<boolean> {
  if ((await a.db.one(Count, sql`select count(*) as n from person`)).n > 0) return false;
  const rubric = checked(RubricFile, JSON.parse(readFileSync(rubricFile, 'utf8')), 'rubric.invalid', rubricFile, 'Correct the file.');
  const { description } = loadMaster(path.join(folder, 'master'));
  // Everyone of the demo shares one password and so one hash: forty would take four seconds.
  const hash = await hashPassword(DEMO_PASSWORD);
  await a.db.transaction(async (q) => {
    const people = [...STAFF.map((p) => ({ ...p, bench: null })), ...STUDENTS.map((s) => ({ ...s, role: 'student' }))];
    for (const p of people)
      await q.run(
        sql`insert into person (id, role, name, sign_in_name, password_hash, bench) values (${p.id}, ${p.role}, ${p.name}, ${p.signIn}, ${hash}, ${p.bench})`,
      );
    await q.run(
      sql`insert into master (id, name, tooth, folder, description) values ('master-16', ${description.name}, ${description.tooth}, ${path.resolve(folder, 'master')}, ${description})`,
    );
    await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${rubric.id}, 1, ${rubric})`);
    await q.run(
      sql`insert into exercise (id, title, tooth, kind, master_id, rubric_version_id) values ('crown-16', 'Zirconia crown on 16', '16', 'crown', 'master-16', (select id from rubric_version limit 1))`,
    );
    for (const s of SITTINGS)
      await q.run(sql`insert into sitting (id, exercise_id, title, held_on) values (${s.id}, 'crown-16', ${s.title}, ${s.heldOn})`);
  });
  return true;
}

/** Brings the scans, newest sitting first, and signs and releases the earlier weeks once they are measured. */
export async function seedScans(a: App, folder: string): Promise<void> {
  const assistant = { id: 'A1', role: 'assistant', name: 'Piet Lorne' } as const;
  const grader = { id: 'I2', role: 'instructor', name: 'Ines Caldera' } as const;
  const brought = new Set<string>();
  for (;;) {
    const last = existsSync(path.join(folder, 'complete'));
    for (const s of [...SITTINGS].reverse()) {
      const dir = path.join(folder, s.id);
      for (const name of existsSync(dir)
        ? readdirSync(dir)
            .filter((f) => f.endsWith('.stl'))
            .sort()
        : []) {
        const file = path.join(dir, name);
        if (brought.has(file)) continue;
        brought.add(file);
        await bringScans(a, s.id, [{ name, bytes: readFileSync(file) }], assistant);
      }
    }
    if (last) break;
    await pause(500);
  }
  const past = SITTINGS.slice(0, -1).map((s) => s.id);
  for (let i = 0; i < 600 && a.jobs.waiting > 0; i++) await pause(500);
  const ready = await a.db.any(
    Ready,
    sql`select a.id from attempt a join scan s on s.attempt_id = a.id left join grade g on g.attempt_id = a.id where s.state = 'measured' and g.id is null and a.sitting_id in (select json_array_elements_text(${past}::json)) order by a.id`,
  );
  for (const { id } of ready) {
    await signAttempt(a.db, id, grader);
    await a.db.run(sql`update attempt set released_at = now(), grader_id = ${grader.id} where id = ${id}`);
  }
}
