import * as v from 'valibot';
import { Absence, type CourseView, ExerciseView, ImportView, Mark, MemberView, SittingView } from '#contract/course.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { mastersFor } from '../masters/rows.ts';
import { remembered } from '../progress/remembered.ts';
import { shippedRubrics } from './shipped.ts';
import { kindsOf } from './standards.ts';

const Course = v.object({
  id: v.string(),
  name: v.string(),
  term: v.string(),
  starts_on: v.nullable(v.string()),
  ends_on: v.nullable(v.string()),
});
const Rubric = v.object({ id: v.string(), body: v.looseObject({ name: v.string(), standard: v.string() }) });

export const coursesNamed = (q: Queries, ids: readonly string[]) =>
  q.any(
    Course,
    sql`select id, name, term, starts_on, ends_on from course where id in (select jsonb_array_elements_text(${ids}::jsonb)) order by starts_on desc nulls last, name`,
  );

export const membersOf = (q: Queries, course: string) =>
  q.any(
    MemberView,
    sql`select p.id, p.name, p.sign_in_name, p.email, n.role, n.bench, n.group_name, p.password_hash like '$%' as has_password,
          (select count(*)::int from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id where a.student_id = p.id and e.course_id = ${course}) as attempts
        from enrolment n join person p on p.id = n.person_id where n.course_id = ${course}
        order by array_position(array['director', 'instructor', 'assistant', 'student'], n.role), n.bench nulls last, p.name`,
  );

export const sittingsIn = (q: Queries, courses: readonly string[]) =>
  q.any(
    SittingView,
    sql`select t.id, e.id as exercise_id, e.title as exercise_title, t.title, t.held_on, to_char(t.starts_at, 'HH24:MI') as starts_at, to_char(t.ends_at, 'HH24:MI') as ends_at, t.room, t.is_resit,
          coalesce((select jsonb_agg(p.name order by p.name) from sitting_grader g join person p on p.id = g.person_id where g.sitting_id = t.id), '[]') as graders,
          (select count(*)::int from absence b where b.sitting_id = t.id) as absent,
          (select count(*)::int from attempt a where a.sitting_id = t.id) as attempts,
          (select count(distinct a.id)::int from attempt a join grade g on g.attempt_id = a.id where a.sitting_id = t.id) as signed
        from sitting t join exercise e on e.id = t.exercise_id where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, t.starts_at nulls last, t.title`,
  );

/** Everything that a course's page shows. */
export async function courseView(a: App, id: string): Promise<CourseView> {
  const { db } = a;
  const [course, people, imports, exercises, sittings, masters, rubrics] = await Promise.all([
    db.one(Course, sql`select id, name, term, starts_on, ends_on from course where id = ${id}`),
    membersOf(db, id),
    db.any(
      ImportView,
      sql`select i.id, i.file_name, i.made_at, p.name as by, jsonb_array_length(i.changes) as written, i.undone_at is not null as undone from roster_import i join person p on p.id = i.made_by
          where i.course_id = ${id} order by i.made_at desc limit 20`,
    ),
    db.any(
      ExerciseView,
      sql`select e.id, e.title, e.tooth, e.kind, m.name as master, coalesce(r.body->>'name', r.rubric_id) as rubric, r.rubric_id, r.version as rubric_version, e.minutes, e.cutters, e.abutment,
            (select coalesce(jsonb_agg(jsonb_build_object('step', s, 'check', coalesce(e.checks->s->>'check', ''), 'needsWord', coalesce((e.checks->s->>'needsWord')::boolean, false)) order by n), '[]') from jsonb_array_elements_text(e.steps) with ordinality x(s, n)) as steps,
            (select count(*)::int from sitting t where t.exercise_id = e.id) as sittings
          from exercise e join master m on m.id = e.master_id join rubric_version r on r.id = e.rubric_version_id where e.course_id = ${id} order by e.title`,
    ),
    sittingsIn(db, [id]),
    mastersFor(db, id),
    db.any(Rubric, sql`select distinct on (rubric_id) rubric_id as id, body from rubric_version order by rubric_id, version desc`),
  ]);
  const kinds = await kindsOf(db, a, id);
  const shipped = [...shippedRubrics(a).values()].map((body) => ({ id: body.id, body }));
  const all = new Map(
    [...shipped, ...rubrics].map(({ id: of, body }) => [of, { id: of, name: body.name, kind: kinds.get(body.standard) ?? '' }]),
  );
  return {
    ...course,
    people,
    imports,
    exercises,
    sittings,
    masters: masters.map(({ id: of, name, tooth }) => ({ id: of, name, tooth })),
    rubrics: [...all.values()].sort((p, q) => p.name.localeCompare(q.name)),
  };
}

/** The newest signed mark of each student in each sitting of a course. */
export const marksOf = (q: Queries, course: string) =>
  q.any(
    Mark,
    sql`select distinct on (a.student_id, t.id) a.student_id, t.id as sitting_id, g.total, g.passed, coalesce(l.grade_id = g.id, false) as released, g.signed_at
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          join lateral (select * from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) l on true
        where e.course_id = ${course} order by a.student_id, t.id, a.number desc`,
  );

export const absencesOf = (q: Queries, course: string) =>
  q.any(
    Absence,
    sql`select b.person_id as student_id, b.sitting_id, b.reason from absence b join sitting t on t.id = b.sitting_id join exercise e on e.id = t.exercise_id where e.course_id = ${course}`,
  );

/** Everything that a gradebook is made of. */
export async function bookOf(q: Queries, course: string) {
  const [people, sittings, marks, absences] = await Promise.all([
    membersOf(q, course),
    sittingsIn(q, [course]),
    remembered(q, `marks ${course}`, () => marksOf(q, course)),
    absencesOf(q, course),
  ]);
  return { people, sittings, marks, absences };
}
