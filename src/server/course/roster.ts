import { createHash, randomBytes } from 'node:crypto';
import * as v from 'valibot';
import { type Fields, type Roster, RosterChange, type RosterPlan, type RosterRow } from '#contract/roster.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import { coursesFor, type Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

/** A password digest that no password has: the person sets one by their invitation. */
export const NO_PASSWORD = '!';

const Known = v.object({
  id: v.string(),
  name: v.string(),
  given_name: v.nullable(v.string()),
  family_name: v.nullable(v.string()),
  sign_in_name: v.string(),
  email: v.nullable(v.string()),
  elsewhere: v.boolean(),
});
const Enrolled = v.object({ person_id: v.string(), role: v.string(), bench: v.nullable(v.string()), group_name: v.nullable(v.string()) });

const nameOf = (r: RosterRow): string => [r.given, r.family].filter(Boolean).join(' ');
const none = (s: string): string | null => s || null;

/** Key of a person in this school: the file's number; without one the e-mail or sign-in name. */
const idOf = (r: RosterRow): string => r.id || r.email.toLowerCase() || r.signIn.toLowerCase();

/**
 * What a roster would change in a course; nothing is written. `own` are the courses that the asker directs: of somebody who also belongs to another
 * course nothing is shown and nothing changed but the part in this one.
 */
export async function planRoster(q: Queries, course: string, roster: Roster, own: readonly string[]): Promise<RosterPlan> {
  const people = await q.any(
    Known,
    sql`select p.id, p.name, p.given_name, p.family_name, p.sign_in_name, p.email, exists (select 1 from enrolment e where e.person_id = p.id
          and e.course_id not in (select jsonb_array_elements_text(${own}::jsonb))) as elsewhere from person p`,
  );
  const enrolled = await q.any(Enrolled, sql`select person_id, role, bench, group_name from enrolment where course_id = ${course}`);
  const byId = new Map(people.map((p) => [p.id, p]));
  const bySignIn = new Map(people.map((p) => [p.sign_in_name, p.id]));
  const signIns = new Map<string, string>();
  const first = new Map<string, RosterRow>();
  const changes = roster.rows.map((r): RosterChange => {
    const id = idOf(r);
    const refused = (note: string): RosterChange => ({
      line: r.line,
      kind: 'refused',
      id,
      role: r.role,
      knew: { person: false, enrolment: false },
      before: null,
      after: null,
      note,
    });
    if (!id) return refused('It has neither a number nor an e-mail or sign-in name to know the person by.');
    const twin = first.get(`${id}|${r.role}`);
    if (twin)
      return same(twin, r)
        ? { ...refused(`The same as line ${twin.line}; taken once.`), kind: 'same' }
        : refused(`Line ${twin.line} says something else of ${id}. Keep one of the two in the file.`);
    first.set(`${id}|${r.role}`, r);
    const p = byId.get(id);
    const name = nameOf(r) || p?.name || '';
    if (!name) return refused('It has no name.');
    const signIn = (r.signIn || p?.sign_in_name || r.email.split('@')[0] || id).toLowerCase();
    const owner = bySignIn.get(signIn) ?? signIns.get(signIn);
    if (owner !== undefined && owner !== id) return refused(`The sign-in name “${signIn}” belongs to somebody else.`);
    signIns.set(signIn, id);
    const e = enrolled.find((x) => x.person_id === id && x.role === r.role);
    if (p?.elsewhere) return ofAnother(r, p, e);
    const before: Fields | null = p
      ? {
          name: p.name,
          given: p.given_name,
          family: p.family_name,
          signIn: p.sign_in_name,
          email: p.email,
          bench: e?.bench ?? null,
          group: e?.group_name ?? null,
        }
      : null;
    // An empty cell says nothing: what is known stays.
    const after: Fields = {
      name,
      given: none(r.given) ?? before?.given ?? null,
      family: none(r.family) ?? before?.family ?? null,
      signIn,
      email: none(r.email) ?? before?.email ?? null,
      bench: none(r.bench) ?? before?.bench ?? null,
      group: none(r.group) ?? before?.group ?? null,
    };
    const isSame = before !== null && e !== undefined && JSON.stringify(before) === JSON.stringify(after);
    return {
      line: r.line,
      kind: isSame ? 'same' : p && e ? 'changed' : 'new',
      id,
      role: r.role,
      knew: { person: p !== undefined, enrolment: e !== undefined },
      before,
      after,
      note: p && !e ? 'Known in this school already.' : null,
    };
  });
  const named = new Set(changes.map((c) => c.id));
  const unnamed = new Set(enrolled.filter((e) => !named.has(e.person_id)).map((e) => e.person_id)).size;
  const seen = createHash('sha256').update(JSON.stringify(changes)).digest('hex').slice(0, 32);
  return { changes, unnamed, seen };
}

/** Somebody of another course as well: only bench and group in this course are the roster's to say. */
function ofAnother(r: RosterRow, p: v.InferOutput<typeof Known>, e: v.InferOutput<typeof Enrolled> | undefined): RosterChange {
  const own = (bench: string | null, group: string | null): Fields => ({
    name: e ? p.name : nameOf(r) || p.id,
    given: null,
    family: null,
    signIn: '',
    email: null,
    bench,
    group,
  });
  const before = e ? own(e.bench, e.group_name) : null;
  const after = own(none(r.bench) ?? e?.bench ?? null, none(r.group) ?? e?.group_name ?? null);
  return {
    line: r.line,
    kind: !before ? 'new' : JSON.stringify(before) === JSON.stringify(after) ? 'same' : 'changed',
    id: p.id,
    role: r.role,
    knew: { person: true, enrolment: e !== undefined },
    before,
    after,
    note: 'Belongs to another course too: name and sign-in stay as they are there.',
  };
}

const same = (a: RosterRow, b: RosterRow): boolean => JSON.stringify({ ...a, line: 0 }) === JSON.stringify({ ...b, line: 0 });

/** Writes what was seen of a roster's plan; refused lines are left out. */
export const applyRoster = (
  a: App,
  who: Person | null,
  course: string,
  roster: Roster,
  seen: string,
): Promise<{ id: string; written: number }> =>
  a.records.act(async (q, note) => {
    permit(who, 'people.keep', await SUBJECTS.course(q, course));
    const plan = await planRoster(q, course, roster, coursesFor(who, 'people.keep'));
    if (plan.seen !== seen)
      throw new Refused('conflict', 'The people of this course changed meanwhile. Look at the changes again before they are taken in.');
    const changes = plan.changes.filter((c) => c.kind === 'new' || c.kind === 'changed');
    if (changes.length === 0) throw new Refused('conflict', 'Nothing in this file is new.');
    for (const c of changes) await write(q, course, c.id, c.role, c.after as Fields, c.knew);
    const id = randomBytes(9).toString('base64url');
    await q.run(
      sql`insert into roster_import (id, course_id, file_name, changes, made_by) values (${id}, ${course}, ${roster.fileName}, ${JSON.stringify(changes)}::jsonb, ${who.id})`,
    );
    await note({ person: who.id, action: 'people.import', subject: `course ${course}`, details: { roster: id, written: changes.length } });
    return { id, written: changes.length };
  });

async function write(q: Queries, course: string, id: string, role: string, f: Fields, knew: RosterChange['knew']): Promise<void> {
  // Without a sign-in name the person is another course's too, and stays as they are.
  if (knew.person && f.signIn)
    await q.run(
      sql`update person set name = ${f.name}, given_name = ${f.given}, family_name = ${f.family}, sign_in_name = ${f.signIn}, email = ${f.email} where id = ${id}`,
    );
  else if (!knew.person)
    await q.run(
      sql`insert into person (id, name, given_name, family_name, sign_in_name, email, password_hash) values (${id}, ${f.name}, ${f.given}, ${f.family}, ${f.signIn}, ${f.email}, ${NO_PASSWORD}) on conflict (id) do nothing`,
    );
  await q.run(
    sql`insert into enrolment (course_id, person_id, role, bench, group_name) values (${course}, ${id}, ${role}, ${f.bench}, ${f.group})
        on conflict (course_id, person_id, role) do update set bench = excluded.bench, group_name = excluded.group_name`,
  );
}

const Import = v.object({ course_id: v.string(), changes: v.array(RosterChange), undone: v.boolean() });
const Count = v.object({ n: v.number() });

/** Takes a roster back: who was new goes again, unless they did something since; what was changed is as before. */
export const undoRoster = (a: App, who: Person | null, course: string, id: string): Promise<{ kept: string[] }> =>
  a.records.act(async (q, note) => {
    permit(who, 'people.keep', await SUBJECTS.course(q, course));
    const i = await q.maybeOne(
      Import,
      sql`select course_id, changes, undone_at is not null as undone from roster_import where id = ${id} and course_id = ${course}`,
    );
    if (!i) throw new Refused('not-there', 'There is no such roster in this course.');
    if (i.undone) throw new Refused('conflict', 'This roster was taken back already.');
    const kept: string[] = [];
    for (const c of i.changes) {
      const busy = await q.one(
        Count,
        sql`select (select count(*) from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id where e.course_id = ${course} and (a.student_id = ${c.id} or a.grader_id = ${c.id}))
              + (select count(*) from audit where person_id = ${c.id}) as n`,
      );
      if (!c.knew.enrolment && busy.n > 0) {
        kept.push(c.id);
        continue;
      }
      if (!c.knew.enrolment)
        await q.run(sql`delete from enrolment where course_id = ${course} and person_id = ${c.id} and role = ${c.role}`);
      if (!c.knew.person) {
        const elsewhere = await q.one(Count, sql`select count(*) as n from enrolment where person_id = ${c.id}`);
        if (elsewhere.n > 0) continue;
        await q.run(sql`delete from invitation where person_id = ${c.id}`);
        await q.run(sql`delete from sign_in where person_id = ${c.id}`);
        await q.run(sql`delete from person where id = ${c.id}`);
      } else if (c.before) await write(q, course, c.id, c.role, c.before, c.knew.enrolment ? c.knew : { ...c.knew, person: true });
      if (c.knew.person && !c.knew.enrolment)
        await q.run(sql`delete from enrolment where course_id = ${course} and person_id = ${c.id} and role = ${c.role}`);
    }
    await q.run(sql`update roster_import set undone_at = now() where id = ${id}`);
    await note({ person: who.id, action: 'people.undo', subject: `course ${course}`, details: { roster: id, kept } });
    return { kept };
  });
