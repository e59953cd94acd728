import { createHash, createHmac } from 'node:crypto';
import * as v from 'valibot';
import { canonical } from '#core/sign/canonical.ts';
import { type Queries, sql } from '../database/port.ts';

/** A row of evidence that an entry vouches for: its table, its id and the digest of its content. */
export interface Vouched {
  readonly table: EvidenceTable;
  readonly id: number;
  readonly sha256: string;
}

/** Content of an audit entry. */
export interface Entry {
  readonly person: string | null;
  readonly action: string;
  readonly subject: string;
  readonly details?: Readonly<Record<string, unknown>>;
  readonly rows?: readonly Vouched[];
}

export const AuditRow = v.object({
  id: v.number(),
  at: v.string(),
  person_id: v.nullable(v.string()),
  action: v.string(),
  subject: v.string(),
  details: v.looseObject({ rows: v.optional(v.array(v.object({ table: v.string(), id: v.number(), sha256: v.string() })), []) }),
  digest: v.string(),
});
export type AuditRow = v.InferOutput<typeof AuditRow>;

/** The digest before the first entry. */
export const GENESIS = '0'.repeat(64);

/** Keyed digest over an entry's content and the previous digest. A person who holds only the database cannot compute it. */
export const digestOf = (key: Uint8Array, e: Omit<AuditRow, 'digest'>, before: string): string =>
  createHmac('sha256', key)
    .update(canonical({ ...e, before }))
    .digest('hex');

export const sha256 = (text: string | Uint8Array): string => createHash('sha256').update(text).digest('hex');

const Last = v.object({ id: v.number(), digest: v.string() });

/** A stored entry of the chain. */
export interface Written {
  readonly id: number;
  readonly digest: string;
}

/** Appends an entry in the transaction of the act itself. */
export async function append(q: Queries, key: Uint8Array, e: Entry): Promise<Written> {
  const last = await q.maybeOne(Last, sql`select id, digest from audit order by id desc limit 1`);
  const row = {
    id: (last?.id ?? 0) + 1,
    at: new Date().toISOString(),
    person_id: e.person,
    action: e.action,
    subject: e.subject,
    details: { ...e.details, rows: (e.rows ?? []).map((r) => ({ ...r })) },
  };
  const digest = digestOf(key, row, last?.digest ?? GENESIS);
  await q.run(
    sql`insert into audit (id, at, person_id, action, subject, details, digest) values (${row.id}, ${row.at}, ${row.person_id}, ${row.action}, ${row.subject}, ${row.details}, ${digest})`,
  );
  return { id: row.id, digest };
}

/**
 * Tables whose rows the chain vouches for, each row as one JSON text made by the database itself, so that its digest covers
 * every column. Nulls are left out: a column that a later migration adds does not change the digests of before.
 */
const CONTENT = {
  attempt: `select t.id, jsonb_build_object('sitting', sitting_id, 'student', student_id, 'number', number)::text as content from attempt t`,
  scan: `select t.id, jsonb_strip_nulls(jsonb_build_object('sitting', sitting_id, 'attempt', attempt_id, 'sha256', sha256, 'name', file_name, 'step', step, 'by', brought_by))::text as content from scan t`,
  measurement: `select t.id, jsonb_build_object('measurement', jsonb_strip_nulls(to_jsonb(t)), 'readings',
      (select coalesce(jsonb_agg(jsonb_strip_nulls(to_jsonb(r)) order by r.name, r.zone nulls first, r.stat), '[]') from reading r where r.measurement_id = t.id))::text as content from measurement t`,
  graded_on: whole('graded_on'),
  judgement: whole('judgement'),
  remark: whole('remark'),
  hand_reading: whole('hand_reading'),
  pin: whole('pin'),
  pin_removal: whole('pin_removal'),
  grade: whole('grade'),
  release: whole('release'),
  rubric_version: `select t.id, (to_jsonb(t) - 'frozen_at')::text as content from rubric_version t`,
} as const satisfies Record<string, string>;
export type EvidenceTable = keyof typeof CONTENT;
export const EVIDENCE_TABLES = Object.keys(CONTENT) as readonly EvidenceTable[];

function whole(table: string): string {
  return `select t.id, jsonb_strip_nulls(to_jsonb(t))::text as content from ${table} t`;
}

const Content = v.object({ id: v.number(), content: v.string() });

/** Current digests of a table's rows: of one row, or of all. */
export async function vouch(q: Queries, table: EvidenceTable, id: number | null = null): Promise<Vouched[]> {
  const text = `${CONTENT[table]} where ($1::int is null or t.id = $1::int) order by t.id`;
  return (await q.any(Content, { text, parameters: [id] })).map((r) => ({ table, id: r.id, sha256: sha256(r.content) }));
}
