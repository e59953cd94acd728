import * as v from 'valibot';
import { GradeFile, OldGrade } from '#contract/grade.ts';
import type { TrailAttempt, TrailCriterion, TrailView } from '#contract/trail-view.ts';
import { coursesOfStudent } from '../access/subjects.ts';
import { coursesFor, type Person as SignedIn } from '../access/table.ts';
import { type Queries, sql } from '../database/port.ts';
import { bandsOf } from '../view/bands.ts';

const Row = v.object({
  attempt_id: v.number(),
  sitting_title: v.string(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  tooth: v.string(),
  kind: v.string(),
  number: v.number(),
  minutes: v.nullable(v.number()),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  version: v.number(),
  released: v.boolean(),
  grader_name: v.string(),
  record: v.union([GradeFile, OldGrade]),
});

/** Bands of a record that does not say which rubric it had: nothing is called too much or too little. */
const OPEN = { occlusal: [0, 99], axial: [0, 99] } as const;

const Person = v.object({ id: v.string(), name: v.string(), bench: v.nullable(v.string()) });

function trailRecord(record: v.InferOutput<typeof Row>['record']): TrailAttempt['record'] {
  if (record.format === 'veritor-grade/1')
    return { criteria: record.criteria, critical: record.critical.map((c) => ({ title: c.title, made: c.made })) };
  return {
    criteria: record.result.criteria.map(
      (c): TrailCriterion => ({
        ...c,
        reason: record.judgements.find((j) => j.line === c.id)?.reason ?? null,
        comment: record.remarks.find((r) => r.line === c.id)?.body ?? null,
      }),
    ),
    critical: record.result.critical.map((c) => ({ title: c.title, made: c.made === true })),
  };
}

/**
 * A student's signed attempts in time order. For the student's own eyes (`isOwn`) the released version of each; for graders of
 * the given courses the newest signed one.
 */
export async function trailView(q: Queries, studentId: string, courses: readonly string[], isOwn: boolean): Promise<TrailView | null> {
  const student = await q.maybeOne(
    Person,
    sql`select p.id, p.name, max(n.bench) as bench from person p join enrolment n on n.person_id = p.id and n.role = 'student'
        where p.id = ${studentId} and n.course_id in (select json_array_elements_text(${courses}::json)) group by p.id`,
  );
  if (!student) return null;
  const rows = await q.any(
    Row,
    sql`select a.id as attempt_id, t.title as sitting_title, t.held_on, e.id as exercise_id, e.title as exercise_title, e.tooth, e.kind, a.number, (select minutes from self_assessment s where s.attempt_id = a.id order by s.id desc limit 1) as minutes, g.total, g.passed, g.version,
          coalesce(l.grade_id = g.id, false) as released, p.name as grader_name, g.record
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) l on true
          join lateral (select * from grade x where x.attempt_id = a.id and x.round <> 2 and (not ${isOwn}::boolean or (x.id = l.grade_id and exists (select 1 from self_assessment s where s.attempt_id = a.id))) order by x.version desc limit 1) g on true
          join person p on p.id = g.grader_id
        where a.student_id = ${studentId} and e.course_id in (select json_array_elements_text(${courses}::json)) order by t.held_on, a.id`,
  );
  const attempts = rows.map((r): TrailAttempt => {
    const { record, ...row } = r;
    const isNew = record.format === 'veritor-grade/2';
    return {
      ...row,
      isScanned: isNew && record.measurement !== null,
      bands: isNew ? bandsOf(record.rubric.body) : OPEN,
      record: trailRecord(record),
    };
  });
  return { student, attempts };
}

const Listed = v.object({
  id: v.string(),
  name: v.string(),
  bench: v.nullable(v.string()),
  signed: v.number(),
  latest: v.nullable(v.number()),
});

/** Students of some courses with how many of their attempts are signed, and the newest score. */
export const studentList = (q: Queries, courses: readonly string[]) =>
  q.any(
    Listed,
    sql`select p.id, p.name, max(n.bench) as bench, count(distinct a.id) filter (where g.id is not null) as signed, (array_agg(g.total order by g.signed_at desc) filter (where g.id is not null))[1] as latest
        from enrolment n join person p on p.id = n.person_id
          left join attempt a on a.student_id = p.id and exists (select 1 from sitting t join exercise e on e.id = t.exercise_id where t.id = a.sitting_id and e.course_id = n.course_id)
          left join lateral (select * from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
        where n.role = 'student' and n.course_id in (select json_array_elements_text(${courses}::json)) group by p.id order by p.name, p.id`,
  );

/** A student's trail as whoever asks may see it: their own, or that of a student of a course that they grade. */
export async function trailFor(
  q: Queries,
  who: SignedIn,
  student: string,
): Promise<{ view: TrailView; courses: readonly string[]; isOwn: boolean } | null> {
  const isOwn = who.id === student;
  const courses = isOwn ? await coursesOfStudent(q, student) : coursesFor(who, 'trail.see');
  const view = await trailView(q, student, courses, isOwn);
  return view && { view, courses, isOwn };
}
