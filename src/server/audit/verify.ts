import { createHash } from 'node:crypto';
import * as v from 'valibot';
import { canonical } from '#core/sign/canonical.ts';
import { type Queries, sql } from '../database/port.ts';
import { AuditRow, digestOf, EVIDENCE_TABLES, GENESIS, vouch } from './chain.ts';

export interface Verified {
  readonly entries: number;
  readonly rows: number;
  /** Faults, one sentence each; empty if everything is as it was written. */
  readonly faults: readonly string[];
}

const Grade = v.object({ id: v.number(), digest: v.string(), record: v.looseObject({}) });

/**
 * Compares the database with its chain: each entry's keyed digest, no gap, the same entries as the log outside; each row of
 * evidence as its entry recorded it, none added and none missing; each signed record under its own digest.
 */
export async function verify(q: Queries, key: Uint8Array, log: ReadonlyMap<number, string>): Promise<Verified> {
  const faults: string[] = [];
  const entries = await q.any(AuditRow, sql`select id, at, person_id, action, subject, details, digest from audit order by id`);
  let before = GENESIS;
  const vouched = new Map<string, string>();
  entries.forEach((e, i) => {
    const { digest, ...row } = e;
    if (e.id !== i + 1) faults.push(`Entry ${i + 1} of the audit is missing: entry ${e.id} stands in its place.`);
    if (digestOf(key, row, before) !== digest)
      faults.push(`Entry ${e.id} (${e.action}, ${e.subject}) does not agree with its digest and the entry before.`);
    if (log.size > 0 && log.get(e.id) !== digest)
      faults.push(`Entry ${e.id} (${e.action}) does not stand in the log outside of the database as it does here.`);
    before = digest;
    for (const r of e.details.rows) vouched.set(`${r.table} ${r.id}`, r.sha256);
  });
  if (entries.length > 0 && log.size === 0) faults.push('The log outside of the database (audit.log) is gone.');
  const last = log.size;
  if (last > entries.length)
    faults.push(`The log outside of the database knows ${last} entries, the database has ${entries.length}: the newest are gone.`);
  let rows = 0;
  for (const table of EVIDENCE_TABLES) {
    const there = await vouch(q, table, null);
    rows += there.length;
    const seen = new Set<string>();
    for (const r of there) {
      const key = `${table} ${r.id}`;
      seen.add(key);
      const expected = vouched.get(key);
      if (expected === undefined) faults.push(`Row ${r.id} of ${table} stands in no entry of the audit: it was added from outside.`);
      else if (expected !== r.sha256) faults.push(`Row ${r.id} of ${table} was changed since it was written down.`);
    }
    for (const key of vouched.keys())
      if (key.startsWith(`${table} `) && !seen.has(key)) faults.push(`Row ${key.split(' ')[1]} of ${table} is gone.`);
  }
  const grades = await q.any(Grade, sql`select id, digest, record from grade order by id`);
  for (const g of grades)
    if (createHash('sha256').update(canonical(g.record)).digest('hex') !== g.digest)
      faults.push(`Signed grade ${g.id} does not agree with its own digest.`);
  return { entries: entries.length, rows, faults };
}
