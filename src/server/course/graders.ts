import * as v from 'valibot';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { Records } from '../audit/records.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

const Grader = v.object({ id: v.string(), name: v.string() });
const Id = v.object({ id: v.number() });

/** Who may grade in a course: its instructors and directors. */
export const gradersOf = (q: Queries, course: string) =>
  q.any(
    Grader,
    sql`select distinct p.id, p.name from enrolment n join person p on p.id = n.person_id where n.course_id = ${course} and n.role in ('instructor', 'director') order by p.name, p.id`,
  );

/** Gives attempts of a sitting to graders, in turn, in the order of the students' names; nobody named takes them back. */
export const shareOut = (
  records: Records,
  who: Person | null,
  sitting: string,
  wanted: { readonly attempts: readonly number[]; readonly graders: readonly string[] },
): Promise<void> =>
  records.act(async (q, note) => {
    const subject = await SUBJECTS.sitting(q, sitting);
    permit(who, 'attempt.assign', subject);
    const known = new Set((await gradersOf(q, subject?.course ?? '')).map((g) => g.id));
    const stranger = wanted.graders.find((g) => !known.has(g));
    if (stranger !== undefined) throw new Refused('not-there', `${stranger} is no instructor of this course.`);
    const mine = await q.any(
      Id,
      sql`select a.id from attempt a join person p on p.id = a.student_id where a.sitting_id = ${sitting}
          and a.id in (select (json_array_elements_text(${wanted.attempts}::json))::int) order by p.name, a.id`,
    );
    if (mine.length < wanted.attempts.length)
      throw new Refused('not-there', 'Some of these attempts are not of this sitting. Reload the page.');
    for (const [i, { id }] of mine.entries()) {
      const grader = wanted.graders.length ? wanted.graders[i % wanted.graders.length] : null;
      await q.run(sql`update attempt set grader_id = ${grader} where id = ${id}`);
    }
    await note({
      person: who.id,
      action: 'attempt.assign',
      subject: `sitting ${sitting}`,
      details: { attempts: mine.map((m) => m.id), graders: [...wanted.graders] },
    });
  });

/** Gives an attempt to a second grader, or to whoever settles between two; a first grader of it cannot be the second. */
export const giveRound = (records: Records, who: Person | null, attempt: number, round: 2 | 3, grader: string): Promise<void> =>
  records.act(async (q, note) => {
    const subject = await SUBJECTS.attempt(q, attempt);
    permit(who, round === 3 ? 'attempt.adjudicate' : 'attempt.assign', subject);
    if (!(await gradersOf(q, subject?.course ?? '')).some((g) => g.id === grader))
      throw new Refused('not-there', `${grader} is no instructor of this course.`);
    const first = await q.any(
      Grader,
      sql`select distinct p.id, p.name from person p where p.id in (select person_id from judgement where attempt_id = ${attempt} and round = 1
          union select grader_id from grade where attempt_id = ${attempt} and round = 1)`,
    );
    if (round === 2 && first.some((p) => p.id === grader))
      throw new Refused(
        'conflict',
        `${first.find((p) => p.id === grader)?.name} has graded this attempt already; the second grader is somebody else.`,
      );
    await q.run(
      sql`insert into marking (attempt_id, round, grader_id, given_by) values (${attempt}, ${round}, ${grader}, ${who.id})
          on conflict (attempt_id, round) do update set grader_id = excluded.grader_id, given_by = excluded.given_by, given_at = now()`,
    );
    await note({ person: who.id, action: 'attempt.round', subject: `attempt ${attempt}`, details: { round, grader } });
  });
