import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';
import { append, EVIDENCE_TABLES, sha256, vouch, type Written } from './chain.ts';

const Count = v.object({ n: v.number() });
const Text = v.object({ content: v.nullable(v.string()) });

/**
 * The first entry of a chain vouches for every row of evidence and audit that an older version wrote. It is written once;
 * rows that appear later without an entry are faults.
 */
export async function adoptOldRecords(q: Queries, key: Uint8Array): Promise<Written | null> {
  if ((await q.one(Count, sql`select count(*) as n from audit`)).n > 0) return null;
  const rows = (await Promise.all(EVIDENCE_TABLES.map((t) => vouch(q, t)))).flat();
  const before = await q.one(Text, sql`select string_agg(to_jsonb(a)::text, E'\n' order by id) as content from audit_before a`);
  return append(q, key, {
    person: null,
    action: 'records.adopted',
    subject: 'installation',
    details: { auditBefore: before.content === null ? null : sha256(before.content) },
    rows,
  });
}
