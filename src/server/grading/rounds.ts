import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';

/** 1: first grader; 2: second grader, who neither sees nor overwrites the first; 3: the grader who settles a difference. */
export type Round = 1 | 2 | 3;
const Marking = v.object({ round: v.picklist([2, 3]), grader_id: v.string() });

export const markingsOf = (q: Queries, attemptId: number) =>
  q.any(Marking, sql`select round, grader_id from marking where attempt_id = ${attemptId} order by round`);

/** The round in which a person works on an attempt: the one assigned to them, otherwise the first. */
export async function roundOf(q: Queries, attemptId: number, person: string): Promise<Round> {
  const own = (await markingsOf(q, attemptId)).filter((m) => m.grader_id === person);
  return own.at(-1)?.round ?? 1;
}
