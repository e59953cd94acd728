import * as v from 'valibot';
import type { TrailView } from '#contract/views.ts';
import type { Database } from '../database/database.ts';
import { sql } from '../database/database.ts';

const GradedCriterion = v.looseObject({
  id: v.string(),
  title: v.string(),
  level: v.nullable(v.number()),
  value: v.nullable(v.number()),
  U: v.nullable(v.number()),
  unit: v.nullable(v.string()),
  zone: v.nullable(v.string()),
  lo: v.optional(v.nullable(v.number()), null),
  hi: v.optional(v.nullable(v.number()), null),
  reason: v.nullable(v.string()),
  comment: v.nullable(v.string()),
  points: v.nullable(v.number()),
  of: v.number(),
  verdict: v.string(),
});
const Row = v.object({
  attempt_id: v.number(),
  sitting_title: v.string(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  version: v.number(),
  released: v.boolean(),
  grader_name: v.string(),
  record: v.looseObject({ criteria: v.array(GradedCriterion), critical: v.array(v.looseObject({ title: v.string(), made: v.boolean() })) }),
});

const Person = v.object({ id: v.string(), name: v.string(), bench: v.nullable(v.string()) });

/** A student's signed attempts in time order; `releasedOnly` for the student's own eyes. */
export async function trailView(db: Database, studentId: string, releasedOnly: boolean): Promise<TrailView | null> {
  const student = await db.maybeOne(Person, sql`select id, name, bench from person where id = ${studentId} and role = 'student'`);
  if (!student) return null;
  const attempts = await db.any(
    Row,
    sql`select distinct on (t.held_on, a.id) a.id as attempt_id, t.title as sitting_title, t.held_on, e.id as exercise_id, e.title as exercise_title, g.total, g.passed, g.version,
          a.released_at is not null as released, p.name as grader_name, g.record
        from grade g join attempt a on a.id = g.attempt_id join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id join person p on p.id = g.grader_id
        where a.student_id = ${studentId} and (${!releasedOnly} or a.released_at is not null)
        order by t.held_on, a.id, g.version desc`,
  );
  return { student, attempts };
}

const Listed = v.object({
  id: v.string(),
  name: v.string(),
  bench: v.nullable(v.string()),
  signed: v.number(),
  latest: v.nullable(v.number()),
});

export const students = (db: Database) =>
  db.any(
    Listed,
    sql`select p.id, p.name, p.bench, count(g.id) as signed, (array_agg(g.total order by g.signed_at desc))[1] as latest
        from person p left join attempt a on a.student_id = p.id left join grade g on g.attempt_id = a.id where p.role = 'student' group by p.id order by p.name`,
  );
