import * as v from 'valibot';
import { coursesFor, type Person } from '../access/table.ts';
import { coursesNamed, sittingsIn } from '../course/view.ts';
import { type Queries, sql } from '../database/port.ts';

const Waits = v.object({
  id: v.string(),
  title: v.string(),
  held_on: v.string(),
  ready: v.number(),
  measuring: v.number(),
  unreadable: v.number(),
  signed: v.number(),
  unreleased: v.number(),
  /** Whether it is theirs to grade: nobody was named, or they were. */
  mine: v.boolean(),
});
const SetUp = v.object({ people: v.boolean(), master: v.boolean(), exercise: v.boolean(), sitting: v.boolean(), scan: v.boolean() });
export type SetUpSteps = v.InferOutput<typeof SetUp>;

/** Sittings of these courses in which something waits for somebody: what can be graded now first, then what comes by itself, then what is to be released. */
const waitingIn = (q: Queries, courses: readonly string[], person: string) =>
  q.any(
    Waits,
    sql`select * from (
          select t.id, e.title || ': ' || t.title as title, t.held_on,
            (select count(*)::int from attempt a where a.sitting_id = t.id and not exists (select 1 from grade g where g.attempt_id = a.id)
               and not exists (select 1 from scan s where s.attempt_id = a.id and s.removed_at is null and s.state in ('arrived', 'measuring'))) as ready,
            (select count(*)::int from scan s where s.sitting_id = t.id and s.removed_at is null and s.state in ('arrived', 'measuring')) as measuring,
            (select count(*)::int from scan s where s.sitting_id = t.id and s.removed_at is null and s.state = 'failed') as unreadable,
            (select count(distinct a.id)::int from attempt a join grade g on g.attempt_id = a.id where a.sitting_id = t.id) as signed,
            (select count(distinct a.id)::int from attempt a join grade g on g.attempt_id = a.id where a.sitting_id = t.id
               and coalesce((select r.grade_id from release r where r.attempt_id = a.id order by r.id desc limit 1), 0) = 0) as unreleased,
            (not exists (select 1 from sitting_grader r where r.sitting_id = t.id) or exists (select 1 from sitting_grader r where r.sitting_id = t.id and r.person_id = ${person})) as mine
          from sitting t join exercise e on e.id = t.exercise_id where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb))) as w
        where ready > 0 or measuring > 0 or unreadable > 0 or unreleased > 0 order by mine desc, (ready > 0 or unreadable > 0) desc, measuring > 0 desc, held_on desc, title limit 12`,
  );

/** What a course still needs before its first grade. */
const setUpOf = (q: Queries, course: string) =>
  q.one(
    SetUp,
    sql`select exists (select 1 from enrolment where course_id = ${course} and role = 'student') as people,
          exists (select 1 from master where file_sha256 is not null and (course_id is null or course_id = ${course})) or exists (select 1 from exercise where course_id = ${course}) as master,
          exists (select 1 from exercise where course_id = ${course}) as exercise,
          exists (select 1 from sitting t join exercise e on e.id = t.exercise_id where e.course_id = ${course}) as sitting,
          exists (select 1 from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id where e.course_id = ${course}) as scan`,
  );

/** The first page of whoever brings, grades or directs. */
export async function todayView(q: Queries, who: Person, today: string) {
  const courses = coursesFor(who, 'tray.see');
  const kept = coursesFor(who, 'course.keep');
  const [waiting, sittings, named] = await Promise.all([waitingIn(q, courses, who.id), sittingsIn(q, courses), coursesNamed(q, kept)]);
  const setUp = await Promise.all(named.map(async (c) => ({ ...c, steps: await setUpOf(q, c.id) })));
  return {
    waiting,
    coming: sittings.filter((s) => s.held_on >= today).slice(0, 8),
    setUp: setUp.filter((c) => Object.values(c.steps).some((done) => !done)),
  };
}
