import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Action, Person } from '../access/table.ts';
import type { EvidenceTable, Vouched } from '../audit/chain.ts';
import { vouch } from '../audit/chain.ts';
import type { Note } from '../audit/records.ts';
import type { Queries } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { type Graded, gradedOf } from './evidence.ts';
import { roundOf } from './rounds.ts';
import { attemptById } from './rows.ts';

/** Loads an attempt inside the act's transaction, with the person's access checked and their round. */
export async function attemptFor(q: Queries, who: Person | null, action: Action, id: number): Promise<{ graded: Graded; person: Person }> {
  permit(who, action, await SUBJECTS.attempt(q, id));
  const attempt = await attemptById(q, id);
  if (!attempt) throw new Refused('not-there', 'There is no such attempt.');
  return { graded: await gradedOf(q, attempt, await roundOf(q, id, who.id)), person: who };
}

/** Writes the audit entry of an act that added a row of evidence. */
export async function noteRow(
  q: Queries,
  note: Note,
  e: { person: Person | null; action: string; subject: string; details?: Readonly<Record<string, unknown>> },
  table: EvidenceTable,
  id: number,
): Promise<void> {
  const rows: Vouched[] = await vouch(q, table, id);
  await note({ person: e.person?.id ?? null, action: e.action, subject: e.subject, details: e.details, rows });
}
