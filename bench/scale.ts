// A course of many signed attempts: how long the data of its pages take, and what the queries do: npm run bench:scale -- [--students 300 --attempts 40]
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { quantile } from '#core/statistics/quantile.ts';
import { bookOf } from '#server/course/view.ts';
import { sql } from '#server/database/port.ts';
import { cohortView } from '#server/progress/cohort.ts';
import { progressView } from '#server/progress/progress.ts';
import { studentList, trailView } from '#server/progress/trail.ts';
import { ownDay, selfView } from '#server/student/work.ts';
import { todayView } from '#server/view/today.ts';
import { openSchool, PEOPLE } from '../test/helpers/school.ts';

const { values } = parseArgs({
  options: {
    students: { type: 'string', default: '300' },
    attempts: { type: 'string', default: '40' },
    plan: { type: 'boolean', default: false },
  },
});
const [students, attempts] = [Number(values.students), Number(values.attempts)];
const LINES = 15;
const CURVES = 4;
const EXERCISES = 20;
const school = await openSchool();
const { db } = school.app;
const began = performance.now();
const names = [
  'reduction.occlusal',
  'reduction.axial',
  'margin.width',
  'margin.gingiva',
  'margin.lip',
  'margin.form',
  'toc.mean',
  'taper.wall',
  'wall.height',
  'clearance.static',
  'form.occlusal',
  'edge.sharp',
  'surface.rough',
  'draw.tilt',
  'undercut.depth',
];

await db.run(
  sql`insert into person (id, name, sign_in_name, password_hash) select 'X' || i, 'Student ' || i, 'x' || i, 'none' from generate_series(1, ${students}::int) i`,
);
await db.run(
  sql`insert into enrolment (course_id, person_id, role, bench, group_name) select 'c1', 'X' || i, 'student', 'B' || i, 'Group ' || (i % 6) from generate_series(1, ${students}::int) i`,
);
await db.run(
  sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id) select 'e' || i, 'c1', 'Exercise ' || i, (array['16', '26', '36', '46'])[1 + i % 4], 'crown', 'm', 1 from generate_series(1, ${EXERCISES}::int) i`,
);
await db.run(
  sql`insert into sitting (id, exercise_id, title, held_on) select 's' || i, 'e' || (1 + i % ${EXERCISES}::int), 'Sitting ' || i, date '2026-09-01' + i * 2 from generate_series(1, ${attempts}::int) i`,
);
await db.run(
  sql`insert into attempt (sitting_id, student_id) select 's' || t, 'X' || p from generate_series(1, ${attempts}::int) t, generate_series(1, ${students}::int) p`,
);
// A record of the older, short format: what is read line by line stands in its own table, and the attempts' table is the only one that opens records.
const record = {
  format: 'veritor-grade/1',
  criteria: names.map((n) => ({
    id: n,
    title: n,
    level: 2,
    value: 1,
    U: 0.05,
    unit: 'mm',
    zone: null,
    lo: 0.8,
    hi: 1.2,
    reason: null,
    comment: null,
    points: 5,
    of: 6,
    verdict: 'inside',
    decidedBy: 'measured',
  })),
  critical: [],
};
await db.run(sql`insert into grade (attempt_id, version, rubric_version_id, grader_id, total, passed, record, digest, signed_at)
  select a.id, 1, 1, 'I2', 50 + (a.id * 7) % 50, true, ${record}, 'x', now() from attempt a where a.student_id like 'X%'`);
await db.run(sql`insert into graded_line (grade_id, line, title, reading, stat, zone, unit, value, u, lo, hi, level, points, out_of)
  select g.id, n, n, n, 'median', 'facial', 'mm', 1 + ((g.id * 13 + i * 7) % 100) / 200.0, 0.05, 0.8, 1.2, (g.id * 3 + i * 5) % 4, ((g.id * 3 + i * 5) % 4) * 2, 6
  from grade g, jsonb_array_elements_text(${names}::jsonb) with ordinality as x(n, i)`);
await db.run(
  sql`insert into graded_error (grade_id, line, title, made) select g.id, 'e' || i, 'Error ' || i, (g.id + i) % 40 = 0 from grade g, generate_series(1, 4) i`,
);
await db.run(sql`insert into graded_curve (grade_id, reading, unit, bins)
  select g.id, n, 'mm', (select jsonb_agg(case when (b + g.id) % 9 = 0 then 0.1 else 0 end order by b) from generate_series(0, 71) b)
  from grade g, (select n from jsonb_array_elements_text(${names.slice(0, CURVES)}::jsonb) as x(n)) c`);
await db
  .run(sql`insert into release (attempt_id, grade_id, person_id) select g.attempt_id, g.id, 'I2' from grade g where g.attempt_id > 1`)
  .catch((e) => process.stderr.write(`${(e as Error).message}\n`));
await db.run(
  sql`insert into self_assessment (attempt_id, lines, minutes) select a.id, (select jsonb_agg(jsonb_build_object('line', n, 'level', (a.id + i) % 4, 'figure', null)) from jsonb_array_elements_text(${names}::jsonb) with ordinality as x(n, i)), 50
      from attempt a where a.student_id like 'X%'`,
);
await db.run(sql`analyze`);
const count = (await db.one(v.object({ n: v.number() }), sql`select count(*)::int as n from grade`)).n;
process.stderr.write(`${count} signed attempts with ${LINES} lines each written in ${((performance.now() - began) / 1000).toFixed(1)} s\n`);

const rows: string[] = [];
async function timed(what: string, run: (i: number) => Promise<unknown>): Promise<void> {
  const took: number[] = [];
  let size = 0;
  for (let i = 0; i < 12; i++) {
    const t = performance.now();
    const answer = await run(i);
    took.push(performance.now() - t);
    size = JSON.stringify(answer).length;
  }
  // The first one fills the database's own memory.
  rows.push(
    `| ${what} | ${took[0].toFixed(0)} | ${quantile(took.slice(1), 0.5).toFixed(0)} | ${quantile(took.slice(1), 0.95).toFixed(0)} | ${(size / 1024).toFixed(0)} |`,
  );
  process.stdout.write(`${rows[rows.length - 1]}\n`);
}
const one = (i: number): string => `X${1 + ((i * 37) % students)}`;
await timed('a student’s progress, for graders', (i) => progressView(db, one(i), ['c1'], false));
await timed('a student’s own progress', (i) => progressView(db, one(i), ['c1'], true));
await timed('how a student judges themselves', (i) => selfView(db, one(i), ['c1'], true));
await timed('a student’s first page', (i) => ownDay(db, one(i), ['c1'], '2026-09-01'));
await timed('a student’s attempts', (i) => trailView(db, one(i), ['c1'], false));
await timed('list of students', () => studentList(db, ['c1']));
await timed('cohort, all exercises', () => cohortView(db, 'c1', { exercise: null, grader: null }));
await timed('cohort, one exercise', (i) => cohortView(db, 'c1', { exercise: `e${1 + (i % EXERCISES)}`, grader: null }));
await timed('gradebook', () => bookOf(db, 'c1'));
await timed('today', () => todayView(db, PEOPLE.ines, '2026-11-28'));
const bytes = await db.any(
  v.object({ name: v.string(), bytes: v.number() }),
  sql`select c.relname as name, pg_total_relation_size(c.oid)::float8 as bytes from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public' and c.relkind = 'r' order by 2 desc limit 8`,
);
const table = bytes.map((b) => `| ${b.name} | ${(b.bytes / 1e6).toFixed(1)} | ${(b.bytes / count).toFixed(0)} |`);
process.stdout.write(`${table.join('\n')}\n`);
if (values.plan)
  for (const r of await db.any(
    v.object({ 'QUERY PLAN': v.string() }),
    sql`explain (analyze, costs off) select a.student_id as student, coalesce(l.reading, l.title) as skill, l.level >= 2 as ok
        from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join graded_line l on l.grade_id = g.id and l.level is not null where e.course_id = 'c1'`,
  ))
    process.stdout.write(`${r['QUERY PLAN']}\n`);
await school.close();
