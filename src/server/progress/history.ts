import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';

export const LineRow = v.object({
  attempt: v.number(),
  student: v.string(),
  number: v.number(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise: v.string(),
  tooth: v.string(),
  line: v.string(),
  title: v.string(),
  reading: v.nullable(v.string()),
  zone: v.nullable(v.string()),
  unit: v.nullable(v.string()),
  value: v.nullable(v.number()),
  u: v.nullable(v.number()),
  lo: v.nullable(v.number()),
  hi: v.nullable(v.number()),
  level: v.nullable(v.number()),
  points: v.nullable(v.number()),
  out_of: v.number(),
});
export type LineRow = v.InferOutput<typeof LineRow>;
const ErrorRow = v.object({ attempt: v.number(), held_on: v.string(), line: v.string(), title: v.string(), made: v.boolean() });
const CurveRow = v.object({
  exercise_id: v.string(),
  tooth: v.string(),
  reading: v.string(),
  unit: v.string(),
  bins: v.array(v.nullable(v.number())),
});
const Outcome = v.object({ student: v.string(), skill: v.string(), ok: v.boolean() });

/** What one skill is known by over all exercises: its reading, or the question's own title. */
export const skillKey = (l: Pick<LineRow, 'reading' | 'title'>): string => l.reading ?? l.title;

/** Lines of a student's counted grades, in the order of time. */
export const linesOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    LineRow,
    sql`select a.id as attempt, a.student_id as student, a.number, t.held_on, e.id as exercise_id, e.title as exercise, e.tooth, l.line, l.title, l.reading, l.zone, l.unit, l.value, l.u, l.lo, l.hi, l.level,
          l.points, l.out_of
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 and (not ${isOwn}::boolean or x.id = r.grade_id) order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id, l.line`,
  );

/** Lines of everybody's newest grades in a course. */
export const courseLines = (q: Queries, course: string, exercise: string | null) =>
  q.any(
    LineRow,
    sql`select a.id as attempt, a.student_id as student, a.number, t.held_on, e.id as exercise_id, e.title as exercise, e.tooth, l.line, l.title, l.reading, l.zone, l.unit, l.value, l.u, l.lo, l.hi, l.level,
          l.points, l.out_of
        from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id
        where e.course_id = ${course} and (${exercise}::text is null or e.id = ${exercise}) order by t.held_on, a.id, l.line`,
  );

export const errorsOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    ErrorRow,
    sql`select a.id as attempt, t.held_on, x.line, x.title, x.made
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade y where y.attempt_id = a.id and y.round <> 2 and (not ${isOwn}::boolean or y.id = r.grade_id) order by y.version desc limit 1) g on true
          join graded_error x on x.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );

export const curvesOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    CurveRow,
    sql`select e.id as exercise_id, e.tooth, c.reading, c.unit, c.bins
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade y where y.attempt_id = a.id and y.round <> 2 and (not ${isOwn}::boolean or y.id = r.grade_id) order by y.version desc limit 1) g on true
          join graded_curve c on c.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );

/** Newest curves of others on the same exercise that a cohort's mean is made of: more would not move it. */
const COHORT = 60;
export const cohortCurves = (q: Queries, student: string, exercises: readonly string[]) =>
  q.any(
    CurveRow,
    sql`select exercise_id, tooth, reading, unit, bins from (
          select e.id as exercise_id, e.tooth, c.reading, c.unit, c.bins, row_number() over (partition by e.id, c.reading order by g.id desc) as n
          from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
            join lateral (select id from grade y where y.attempt_id = a.id and y.round <> 2 order by y.version desc limit 1) g on true
            join graded_curve c on c.grade_id = g.id
          where e.id in (select jsonb_array_elements_text(${exercises}::jsonb)) and a.student_id <> ${student}) as x where n <= ${COHORT}`,
  );

/** Successes and failures of everybody in these courses, skill by skill, in the order of time. */
export const outcomesIn = (q: Queries, courses: readonly string[]) =>
  q.any(
    Outcome,
    sql`select a.student_id as student, coalesce(l.reading, l.title) as skill, l.level >= 2 as ok
        from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id and l.level is not null
        where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );
