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
  minutes: v.nullable(v.number()),
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

/** What one skill is known by over all exercises: its reading, or the question's own title. */
export const skillKey = (l: Pick<LineRow, 'reading' | 'title'>): string => l.reading ?? l.title;

/** Lines of a student's counted grades, in the order of time. */
export const linesOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    LineRow,
    sql`select a.id as attempt, a.student_id as student, a.number, t.held_on, e.id as exercise_id, e.title as exercise, e.tooth, l.line, l.title, l.reading, l.zone, l.unit, l.value, l.u, l.lo, l.hi, l.level,
          l.points, l.out_of, (select minutes from self_assessment s where s.attempt_id = a.id order by s.id desc limit 1) as minutes
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from shown_release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 and (not ${isOwn}::boolean or x.id = r.grade_id) order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id, l.line`,
  );

const Figures = v.array(v.nullable(v.number()));
const ColumnRow = v.object({
  line: v.string(),
  reading: v.nullable(v.string()),
  attempts: v.array(v.number()),
  students: v.array(v.string()),
  figures: Figures,
  points: Figures,
  of: v.array(v.number()),
  levels: Figures,
});
const BandRow = v.object({
  line: v.string(),
  title: v.string(),
  unit: v.nullable(v.string()),
  lo: v.nullable(v.number()),
  hi: v.nullable(v.number()),
});

/** One line of an exercise in everybody's newest grades, in the order of time, with its title and band as they were last. */
export interface Column extends v.InferOutput<typeof BandRow> {
  readonly reading: string | null;
  readonly rows: readonly {
    readonly attempt: number;
    readonly student: string;
    readonly value: number | null;
    readonly points: number | null;
    readonly of: number;
    readonly level: number | null;
  }[];
}

/** Lines of everybody's newest grades of one exercise, a row a line and a list a column: thousands of rows, or of lists in a list, would take longer to hand over than to find. */
export async function exerciseColumns(q: Queries, course: string, exercise: string, grader: string | null): Promise<Column[]> {
  const [columns, bands] = await Promise.all([
    q.any(
      ColumnRow,
      sql`select l.line, max(l.reading) as reading, json_agg(l.id) as attempts, json_agg(l.student_id) as students, json_agg(l.value) as figures, json_agg(l.points) as points, json_agg(l.out_of) as of,
            json_agg(l.level) as levels
          from (
            select a.id, a.student_id, l.line, l.reading, l.value, l.points, l.out_of, l.level
            from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
              join lateral (select id, grader_id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
              join graded_line l on l.grade_id = g.id
            where e.course_id = ${course} and e.id = ${exercise} and (${grader}::text is null or g.grader_id = ${grader}) order by t.held_on, a.id) l
          group by l.line order by l.line`,
    ),
    q.any(
      BandRow,
      sql`select l.line, l.title, l.unit, l.lo, l.hi from graded_line l where l.grade_id = (
            select g.id from grade g join attempt a on a.id = g.attempt_id join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
            where e.course_id = ${course} and e.id = ${exercise} and g.round <> 2 and (${grader}::text is null or g.grader_id = ${grader}) order by t.held_on desc, a.id desc, g.version desc limit 1)`,
    ),
  ]);
  const newest = new Map(bands.map((b) => [b.line, b]));
  return columns.flatMap(({ line, reading, attempts, students, figures, points, of, levels }): Column[] => {
    const band = newest.get(line);
    // A line that the newest rubric no longer has is no criterion of this exercise any more.
    if (!band) return [];
    return [
      {
        ...band,
        reading,
        rows: attempts.map((attempt, k) => ({
          attempt,
          student: students[k],
          value: figures[k],
          points: points[k],
          of: of[k],
          level: levels[k],
        })),
      },
    ];
  });
}

/** Levels of everybody at the skills of one exercise, from its columns, in the order of time. */
export function skillsOf(columns: readonly Column[]): SkillLevels[] {
  const by = new Map<string, SkillLevels>();
  for (const c of columns) {
    const skill = skillKey(c);
    for (const { student, level, attempt } of c.rows) {
      if (level === null) continue;
      const key = `${student}|${skill}`;
      const known = by.get(key) ?? { student, skill, title: c.title, levels: [], attempt };
      by.set(key, known);
      known.levels.push(level);
      known.attempt = attempt;
    }
  }
  return [...by.values()];
}

const OwnRow = v.object({
  student: v.string(),
  attempt: v.number(),
  minutes: v.nullable(v.number()),
  /** Own level and the signed one, line by line. */
  levels: v.array(v.tuple([v.number(), v.number()])),
});
/** Newest attempts of a student that say how they judge themselves, and how long they take. */
const OWN_NEWEST = 8;
/** What a course's students said of their newest attempts before the results, beside what was signed, in the order of time. */
export const ownJudgements = (q: Queries, course: string) =>
  q.any(
    OwnRow,
    sql`with own as (
          select a.id, a.student_id, t.held_on, s.minutes, s.lines, row_number() over (partition by a.student_id order by t.held_on desc, a.id desc) as n
          from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
            join lateral (select minutes, lines from self_assessment where attempt_id = a.id order by id desc limit 1) s on true
          where e.course_id = ${course})
        select o.student_id as student, o.id as attempt, o.minutes,
          (select coalesce(jsonb_agg(jsonb_build_array((j.line->>'level')::int, l.level)), '[]'::jsonb) from grade g join graded_line l on l.grade_id = g.id and l.level is not null
             join lateral jsonb_array_elements(o.lines) as j(line) on j.line->>'line' = l.line and j.line->>'level' is not null
           where g.id = (select id from grade x where x.attempt_id = o.id and x.round <> 2 order by x.version desc limit 1)) as levels
        from own o where n <= ${OWN_NEWEST} order by o.held_on, o.id`,
  );

export const errorsOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    ErrorRow,
    sql`select a.id as attempt, t.held_on, x.line, x.title, x.made
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from shown_release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade y where y.attempt_id = a.id and y.round <> 2 and (not ${isOwn}::boolean or y.id = r.grade_id) order by y.version desc limit 1) g on true
          join graded_error x on x.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );

export const curvesOf = (q: Queries, student: string, courses: readonly string[], isOwn: boolean) =>
  q.any(
    CurveRow,
    sql`select e.id as exercise_id, e.tooth, c.reading, c.unit, c.bins
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from shown_release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade y where y.attempt_id = a.id and y.round <> 2 and (not ${isOwn}::boolean or y.id = r.grade_id) order by y.version desc limit 1) g on true
          join graded_curve c on c.grade_id = g.id
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );

/** Newest curves of an exercise that a cohort's mean is made of: more would not move it. */
const COHORT = 60;
const MeanRow = v.object({ exercise_id: v.string(), reading: v.string(), attempts: v.number(), bins: v.array(v.nullable(v.number())) });
/** What a cohort does on the average, exercise by exercise and reading by reading, bin by bin. */
export const cohortMeans = (q: Queries, courses: readonly string[]) =>
  q.any(
    MeanRow,
    sql`with newest as (
          select * from (
            select e.id as exercise_id, c.reading, c.bins, row_number() over (partition by e.id, c.reading order by c.grade_id desc) as n
            from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id join grade g on g.attempt_id = a.id and g.round <> 2 join graded_curve c on c.grade_id = g.id
            where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb))) as x where n <= ${COHORT}),
        by_bin as (
          select exercise_id, reading, b.bin, avg(nullif(b.value, 'null'::jsonb)::float8) as mean from newest, jsonb_array_elements(bins) with ordinality as b(value, bin) group by 1, 2, 3),
        counts as (select exercise_id, reading, count(*)::int as attempts from newest group by 1, 2)
        select m.exercise_id, m.reading, c.attempts, jsonb_agg(m.mean order by m.bin) as bins from by_bin m join counts c using (exercise_id, reading) group by 1, 2, 3`,
  );

/** Students whose outcomes tell enough of a cohort's. */
const SAMPLE = 60;
const OutcomeRow = v.object({ skill: v.string(), outcomes: v.array(v.boolean()) });
/** Successes and failures skill by skill of some of a course's students, each in the order of time. */
export const outcomesIn = (q: Queries, courses: readonly string[]) =>
  q.any(
    OutcomeRow,
    sql`with sample as (select person_id from (select distinct person_id from enrolment where role = 'student' and course_id in (select jsonb_array_elements_text(${courses}::jsonb))) as x
            order by md5(person_id) limit ${SAMPLE})
        select coalesce(l.reading, l.title) as skill, jsonb_agg(l.level >= 2 order by t.held_on, a.id) as outcomes
        from sample s join attempt a on a.student_id = s.person_id join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id and l.level is not null
        where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) group by a.student_id, 1`,
  );

const SkillRow = v.object({
  student: v.string(),
  skill: v.string(),
  title: v.string(),
  levels: v.array(v.number()),
  attempt: v.number(),
});
export type SkillLevels = v.InferOutput<typeof SkillRow>;
/** Levels of everybody in a course, skill by skill, in the order of time, with the newest attempt. */
export const courseSkills = (q: Queries, course: string, grader: string | null) =>
  q.any(
    SkillRow,
    sql`select a.student_id as student, coalesce(l.reading, l.title) as skill, max(l.title) as title, jsonb_agg(l.level order by t.held_on, a.id) as levels,
          (array_agg(a.id order by t.held_on desc, a.id desc))[1] as attempt
        from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
          join lateral (select id, grader_id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id and l.level is not null
        where e.course_id = ${course} and (${grader}::text is null or g.grader_id = ${grader}) group by 1, 2`,
  );
