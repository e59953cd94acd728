import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';
import type { Subject } from './table.ts';

const Found = v.object({ course: v.string(), student: v.nullable(v.string()), released: v.boolean() });
const toSubject = (f: v.InferOutput<typeof Found>): Subject => ({
  course: f.course,
  isReleased: f.released,
  ...(f.student === null ? {} : { student: f.student }),
});

/** What the parameter of an address names, and so whose data and which course are asked for. */
export const SUBJECTS = {
  attempt: (q: Queries, id: number) =>
    one(
      q,
      sql`select e.course_id as course, a.student_id as student,
            coalesce((select r.grade_id is not null from release r where r.attempt_id = a.id order by r.id desc limit 1), false) as released
          from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id where a.id = ${id}`,
    ),
  scan: (q: Queries, id: number) =>
    one(
      q,
      sql`select e.course_id as course, null as student, false as released from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id where s.id = ${id}`,
    ),
  sitting: (q: Queries, id: string) =>
    one(
      q,
      sql`select e.course_id as course, null as student, false as released from sitting t join exercise e on e.id = t.exercise_id where t.id = ${id}`,
    ),
  exercise: (q: Queries, id: string) =>
    one(q, sql`select course_id as course, null as student, false as released from exercise where id = ${id}`),
  course: (q: Queries, id: string) => one(q, sql`select id as course, null as student, false as released from course where id = ${id}`),
  draft: (q: Queries, id: string) =>
    one(q, sql`select course_id as course, null as student, false as released from master_draft where id = ${id}`),
} as const;
export type SubjectKind = keyof typeof SUBJECTS;

async function one(q: Queries, statement: ReturnType<typeof sql>): Promise<Subject | null> {
  const found = await q.maybeOne(Found, statement);
  return found && toSubject(found);
}

const Course = v.object({ course: v.string() });
/** Courses in which somebody is a student. */
export const coursesOfStudent = async (q: Queries, id: string): Promise<string[]> =>
  (await q.any(Course, sql`select course_id as course from enrolment where person_id = ${id} and role = 'student' order by course_id`)).map(
    (r) => r.course,
  );
