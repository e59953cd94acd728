import * as v from 'valibot';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { Note, Records } from '../audit/records.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { noteRow } from './act.ts';
import { markingsOf } from './rounds.ts';
import { type GradeRow, gradesOf, releasedGrade } from './rows.ts';

const Id = v.object({ id: v.number() });

/**
 * The grade that counts: the first grader's. If a second grader was asked, both must have signed and agree; if they differ,
 * the settling grader's. Null with a sentence if there is none yet.
 */
async function gradeThatCounts(q: Queries, attempt: number): Promise<{ grade: GradeRow } | { missing: string }> {
  const grades = await gradesOf(q, attempt);
  const newest = (round: number): GradeRow | undefined => grades.filter((g) => g.round === round).at(-1);
  const rounds = (await markingsOf(q, attempt)).map((m) => m.round);
  const [first, second, third] = [newest(1), newest(2), newest(3)];
  if (rounds.includes(3)) return third ? { grade: third } : { missing: 'Whoever settles between the two graders has not signed yet.' };
  if (!first) return { missing: 'Sign the attempt first; only signed grades are released.' };
  if (!rounds.includes(2)) return { grade: first };
  if (!second) return { missing: 'The second grader has not signed yet.' };
  if (first.total !== second.total || first.passed !== second.passed)
    return { missing: `The two graders differ (${first.total} and ${second.total}): give the attempt to somebody who settles it.` };
  return { grade: first };
}

async function releaseNewest(q: Queries, note: Note, person: Person, attempt: number): Promise<{ version: number } | { missing: string }> {
  const found = await gradeThatCounts(q, attempt);
  if ('missing' in found) return found;
  const { grade } = found;
  const before = await releasedGrade(q, attempt);
  if (before?.id !== grade.id)
    await addRelease(q, note, person, attempt, grade.id, { version: grade.version, before: before?.version ?? null });
  return { version: grade.version };
}

async function addRelease(
  q: Queries,
  note: Note,
  person: Person,
  attempt: number,
  grade: number | null,
  details: Readonly<Record<string, unknown>>,
): Promise<void> {
  const { id } = await q.one(
    Id,
    sql`insert into release (attempt_id, grade_id, person_id) values (${attempt}, ${grade}, ${person.id}) returning id`,
  );
  const action = grade === null ? 'attempt.withdraw' : 'attempt.release';
  await noteRow(q, note, { person, action, subject: `attempt ${attempt}`, details }, 'release', id);
}

/** Releases the newest signed version to the student. A later version needs its own release. */
export const releaseAttempt = (records: Records, who: Person | null, attempt: number): Promise<{ version: number }> =>
  records.act(
    async (q, note) => {
      permit(who, 'attempt.release', await SUBJECTS.attempt(q, attempt));
      const done = await releaseNewest(q, note, who, attempt);
      if ('missing' in done) throw new Refused('conflict', done.missing);
      return done;
    },
    { isDurable: true },
  );

/** Withdraws a release: the student no longer sees the grade; the grade stays. */
export const withdrawRelease = (records: Records, who: Person | null, attempt: number): Promise<void> =>
  records.act(
    async (q, note) => {
      permit(who, 'attempt.release', await SUBJECTS.attempt(q, attempt));
      const before = await releasedGrade(q, attempt);
      if (!before) throw new Refused('conflict', 'Nothing of this attempt is released.');
      await addRelease(q, note, who, attempt, null, { before: before.version });
    },
    { isDurable: true },
  );

/** Releases every signed attempt of a sitting and lists the attempts left out, with the reason. */
export const releaseSitting = (
  records: Records,
  who: Person | null,
  sitting: string,
): Promise<{ released: number; left: { attempt: number; why: string }[] }> =>
  records.act(
    async (q, note) => {
      permit(who, 'attempt.release', await SUBJECTS.sitting(q, sitting));
      const left: { attempt: number; why: string }[] = [];
      let released = 0;
      for (const { id } of await q.any(Id, sql`select id from attempt where sitting_id = ${sitting} order by id`)) {
        const done = await releaseNewest(q, note, who, id);
        if ('missing' in done) left.push({ attempt: id, why: done.missing });
        else released++;
      }
      return { released, left };
    },
    { isDurable: true },
  );
