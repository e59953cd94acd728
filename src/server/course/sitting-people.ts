import * as v from 'valibot';
import type { SittingPeople } from '#contract/course.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

const Of = v.object({ person: v.string() });
const Seat = v.object({ person: v.string(), bench: v.string() });
const Absent = v.object({ person: v.string(), reason: v.string() });
const Role = v.object({ id: v.string(), name: v.string(), role: v.string(), bench: v.nullable(v.string()) });

/** Who grades a sitting, who sits elsewhere than at their own bench, who was not there. */
export async function sittingPeople(q: Queries, id: string): Promise<SittingPeople> {
  const [graders, seats, absences] = await Promise.all([
    q.any(Of, sql`select person_id as person from sitting_grader where sitting_id = ${id} order by person_id`),
    q.any(Seat, sql`select person_id as person, bench from seat where sitting_id = ${id} order by bench`),
    q.any(Absent, sql`select person_id as person, reason from absence where sitting_id = ${id} order by person_id`),
  ]);
  return { graders: graders.map((g) => g.person), seats, absences };
}

/** Somebody who was there cannot be absent, graders grade in this course, and no bench is given twice, neither here nor by its usual owner. */
export const setSittingPeople = (a: App, who: Person | null, id: string, p: SittingPeople): Promise<void> =>
  a.records.act(async (q, note) => {
    const subject = await SUBJECTS.sitting(q, id);
    permit(who, 'course.keep', subject);
    const people = await q.any(
      Role,
      sql`select p.id, p.name, n.role, n.bench from enrolment n join person p on p.id = n.person_id where n.course_id = ${subject?.course ?? ''}`,
    );
    const of = (person: string, roles: readonly string[]) => people.find((r) => r.id === person && roles.includes(r.role));
    for (const g of p.graders)
      if (!of(g, ['director', 'instructor']))
        throw new Refused('not-valid', `“${g}” grades nothing in this course: only its directors and instructors do.`);
    for (const s of [...p.seats, ...p.absences])
      if (!of(s.person, ['student'])) throw new Refused('not-valid', `“${s.person}” is no student of this course.`);
    const moved = new Map(p.seats.map((s) => [s.person, s.bench]));
    const away = new Set(p.absences.map((b) => b.person));
    for (const s of p.seats) {
      const owner = people.find(
        (r) => r.role === 'student' && r.bench === s.bench && r.id !== s.person && !moved.has(r.id) && !away.has(r.id),
      );
      if (owner) throw new Refused('conflict', `Bench ${s.bench} is ${owner.name}’s. Give them another one, or say that they are absent.`);
    }
    const worked = await q.any(
      Role,
      sql`select distinct p.id, p.name, '' as role, null as bench from attempt a join person p on p.id = a.student_id where a.sitting_id = ${id} and p.id in (select jsonb_array_elements_text(${[...away]}::jsonb))`,
    );
    if (worked.length)
      throw new Refused(
        'conflict',
        `${worked.map((w) => w.name).join(', ')} handed in work in this sitting and cannot be absent. Give the scan to whoever made it first.`,
      );
    await q.run(sql`delete from sitting_grader where sitting_id = ${id}`);
    await q.run(sql`delete from seat where sitting_id = ${id}`);
    await q.run(sql`delete from absence where sitting_id = ${id}`);
    for (const g of p.graders) await q.run(sql`insert into sitting_grader (sitting_id, person_id) values (${id}, ${g})`);
    for (const s of p.seats) await q.run(sql`insert into seat (sitting_id, person_id, bench) values (${id}, ${s.person}, ${s.bench})`);
    for (const b of p.absences)
      await q.run(sql`insert into absence (sitting_id, person_id, reason, said_by) values (${id}, ${b.person}, ${b.reason}, ${who.id})`);
    await note({
      person: who.id,
      action: 'sitting.people',
      subject: `sitting ${id}`,
      details: { graders: [...p.graders], seats: p.seats.length, absent: p.absences.map((b) => b.person) },
    });
  });
