import * as v from 'valibot';
import type { ScoreView } from '#contract/views.ts';
import type { Person } from '../access/table.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { gradedOf } from '../grading/evidence.ts';
import { roundOf } from '../grading/rounds.ts';
import { attemptById, gradesOf, releasedGrade } from '../grading/rows.ts';
import { rememberShown } from '../grading/sign.ts';
import { displayPlace, scoreView } from './score.ts';

const noAttempt = (): Refused => new Refused('not-there', 'There is no such attempt.');

/** An attempt's current score in a grader's round, after an act. */
export async function scoreFor(q: Queries, who: Person | null, attemptId: number): Promise<ScoreView> {
  const attempt = await attemptById(q, attemptId);
  if (!attempt || !who) throw noAttempt();
  const g = await gradedOf(q, attempt, await roundOf(q, attemptId, who.id));
  rememberShown(g);
  return scoreView({
    rubric: g.basis.rubric,
    score: g.score,
    seen: g.seen,
    readings: g.readings,
    hand: g.hand,
    words: g.judgements,
    reopened: g.reopened,
    remarks: g.remarks,
    pins: g.pins,
    place: displayPlace(attempt.master),
  });
}

/** Converts a place of the picture to the master file's frame. */
export async function inFile(q: Queries, attemptId: number, point: readonly number[]): Promise<readonly [number, number, number]> {
  const attempt = await attemptById(q, attemptId);
  if (!attempt) throw noAttempt();
  const [x, y, z] = displayPlace(attempt.master).inFile(point);
  return [x, y, z];
}

/** Signed versions, newest last: those of the grader's round, or only the released one for the student. */
export async function gradesFor(q: Queries, attemptId: number, who: Person | null, seesAll: boolean) {
  const round = who && seesAll ? await roundOf(q, attemptId, who.id) : 1;
  const released = await releasedGrade(q, attemptId);
  const all = seesAll ? (await gradesOf(q, attemptId)).filter((g) => g.round === round || round === 3) : released ? [released] : [];
  return all.map((g) => ({
    version: g.version,
    round: g.round,
    total: g.total,
    passed: g.passed,
    grader: g.grader_name,
    signed_at: g.signed_at,
    digest: g.digest,
    released: g.id === released?.id,
  }));
}

const Entry = v.object({
  id: v.number(),
  at: v.string(),
  person: v.nullable(v.string()),
  action: v.string(),
  subject: v.string(),
  digest: v.string(),
});

/** The newest audit entries, for directors. */
export const auditView = (q: Queries) =>
  q.any(
    Entry,
    sql`select a.id, a.at, p.name as person, a.action, a.subject, a.digest from audit a left join person p on p.id = a.person_id order by a.id desc limit 200`,
  );

const ToAlign = v.object({ file_name: v.string(), sitting_id: v.string(), fault: v.nullable(v.string()) });

/** A scan to be aligned by hand, and why the automatic alignment refused it. */
export const scanToAlign = (q: Queries, id: number) =>
  q.maybeOne(ToAlign, sql`select file_name, sitting_id, fault_text as fault from scan where id = ${id}`);
