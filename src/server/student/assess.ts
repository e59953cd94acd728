import * as v from 'valibot';
import type { Practised, SelfForm } from '#contract/work.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { attemptById } from '../grading/rows.ts';

const Own = v.object({
  lines: v.array(v.object({ line: v.string(), level: v.nullable(v.picklist([0, 1, 2, 3])), figure: v.nullable(v.number()) })),
  minutes: v.nullable(v.number()),
});

/** The newest judgement of their own that the student gave; null where there is none. */
export const ownJudgement = (q: Queries, attempt: number): Promise<SelfForm | null> =>
  q.maybeOne(Own, sql`select lines, minutes from self_assessment where attempt_id = ${attempt} order by id desc limit 1`);

/**
 * Takes what a student says of their own attempt. It can be changed until the result is shown: that is as soon as it is released and
 * a judgement is there.
 */
export const assess = (a: Pick<App, 'records'>, who: Person | null, attempt: number, form: SelfForm): Promise<void> =>
  a.records.act(async (q, note) => {
    const subject = await SUBJECTS.attempt(q, attempt);
    permit(who, 'work.assess', subject);
    if (subject?.isReleased && (await ownJudgement(q, attempt)))
      throw new Refused('conflict', 'The result is shown already; what you thought of your work before stays as it was.');
    const found = await attemptById(q, attempt);
    const known = new Set(found?.rubric.criteria.map((c) => c.id));
    const unknown = form.lines.find((l) => !known.has(l.line));
    if (unknown) throw new Refused('not-valid', `There is no line “${unknown.line}” in this exercise.`);
    await q.run(
      sql`insert into self_assessment (attempt_id, lines, minutes) values (${attempt}, ${JSON.stringify(form.lines)}::jsonb, ${form.minutes})`,
    );
    await note({ person: who.id, action: 'work.assess', subject: `attempt ${attempt}`, details: { lines: form.lines.length } });
  });

/** Notes that a student did a drill today; twice on one day is once. */
export async function practise(a: Pick<App, 'db'>, who: Person | null, p: v.InferOutput<typeof Practised>, today: string): Promise<void> {
  if (!who) throw new Refused('signed-out', 'Sign in first.');
  if (!who.roles[p.course]?.includes('student')) throw new Refused('not-there', 'There is no such course, or you are no student of it.');
  await a.db.run(
    sql`insert into practised (course_id, student_id, skill, done_on) values (${p.course}, ${who.id}, ${p.skill}, ${today}) on conflict do nothing`,
  );
}
