import * as v from 'valibot';
import { type Limits, limitsFor, USUAL_LIMITS } from '#core/progress/limits.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';

const Rates = v.object({ acceptable: v.number(), unacceptable: v.number() });
const known = new Map<string, Limits>();

/** What mastery is told by in a course. */
export async function limitsOf(q: Queries, course: string | undefined): Promise<Limits> {
  const rates =
    course === undefined ? null : await q.maybeOne(Rates, sql`select acceptable, unacceptable from course where id = ${course}`);
  if (!rates) return USUAL_LIMITS;
  const key = `${rates.acceptable} ${rates.unacceptable}`;
  const limits = known.get(key) ?? limitsFor(rates.acceptable, rates.unacceptable);
  known.set(key, limits);
  return limits;
}

/** A director sets what failure rates are acceptable and not; grades stay as they are. */
export const setLimits = (a: App, who: Person | null, course: string, rates: v.InferOutput<typeof Rates>): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    await q.run(sql`update course set acceptable = ${rates.acceptable}, unacceptable = ${rates.unacceptable} where id = ${course}`);
    await note({ person: who.id, action: 'course.limits', subject: `course ${course}`, details: { ...rates } });
  });

/** Somebody who graded says what was done about a concern; it is put aside with their words. */
export const putAside = (
  a: App,
  who: Person | null,
  course: string,
  c: { student: string; what: string; about: string; attempt: number | null; note: string },
): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'gradebook.see', await SUBJECTS.course(q, course));
    await q.run(
      sql`insert into concern_note (course_id, student_id, what, about, attempt_id, note, said_by)
          select ${course}, n.person_id, ${c.what}, ${c.about}, (select id from attempt where id = ${c.attempt} and student_id = n.person_id), ${c.note}, ${who.id}
          from enrolment n where n.course_id = ${course} and n.person_id = ${c.student} and n.role = 'student'`,
    );
    await note({ person: who.id, action: 'concern.note', subject: `course ${course}`, details: { student: c.student, what: c.what } });
  });
