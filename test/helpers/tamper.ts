import * as v from 'valibot';
import { seeded } from '#core/statistics/random.ts';
import { EVIDENCE_TABLES } from '#server/audit/chain.ts';
import type { Database, Queries } from '#server/database/port.ts';

const Row = v.object({ key: v.string(), row: v.looseObject({}) });

/** Columns that an act may change, and that no grade rests on. */
const MUTABLE: Readonly<Record<string, readonly string[]>> = {
  attempt: ['grader_id'],
  scan: ['state', 'fault_code', 'fault_text', 'tries', 'is_quarantined', 'version', 'arrived_at', 'hand_pose', 'posed_by'],
  rubric_version: ['frozen_at'],
};

/** One edit of the database behind the program's back, as somebody with all rights on it could make it; and its undoing. */
export async function editAtRandom(db: Database, seed: number): Promise<{ words: string; undo: () => Promise<void> }> {
  const source = seeded(seed);
  const random = (): number => source.next();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  for (;;) {
    const table = pick([...EVIDENCE_TABLES, 'audit', 'audit', 'grade', 'reading', 'reading']);
    const key = table === 'reading' ? 'ctid' : 'id';
    const rows = await db.any(Row, {
      text: `select ${key}::text as key, to_jsonb(t) as row from ${table} t order by ${key}`,
      parameters: [],
    });
    if (rows.length === 0) continue;
    const { key: at, row } = pick(rows);
    const columns = Object.keys(row).filter((c) => c !== 'id' && !MUTABLE[table]?.includes(c));
    const kind = pick(['change', 'change', 'change', 'delete', 'copy'] as const);
    if (kind === 'copy' && table === 'audit') continue;
    const column = pick(columns);
    const changed = alter(row[column], random);
    if (kind === 'change' && changed === undefined) continue;
    try {
      return await apply(db, table, key, at, row, kind, column, changed);
    } catch {
      // What the database's own rules forbid even to whoever owns it is no edit; the next one is tried.
    }
  }
}

type Kind = 'change' | 'delete' | 'copy';

async function apply(
  db: Database,
  table: string,
  key: string,
  at: string,
  row: Record<string, unknown>,
  kind: Kind,
  column: string,
  changed: unknown,
): Promise<{ words: string; undo: () => Promise<void> }> {
  const say = (q: Queries, text: string, ...parameters: unknown[]): Promise<void> => q.run({ text, parameters });
  // All or nothing: an edit that a rule forbids leaves the row as it was.
  const free = (work: (q: Queries) => Promise<void>): Promise<void> =>
    db.transaction(async (q) => {
      await say(q, `alter table ${table} disable trigger all`);
      await work(q);
      await say(q, `alter table ${table} enable trigger all`);
    });
  const put = (q: Queries, r: unknown) =>
    say(q, `insert into ${table} select * from jsonb_populate_record(null::${table}, $1::jsonb)`, JSON.stringify(r));
  const drop = (q: Queries, where: string) => say(q, `delete from ${table} where ${where}`);
  // One row of those that say the same: an edit can make a reading equal to another.
  const like = (r: unknown): string =>
    `ctid = (select min(ctid) from ${table} where to_jsonb(${table}) = '${JSON.stringify(r).replaceAll("'", "''")}'::jsonb)`;
  const same = like(row);
  if (kind === 'delete') {
    await free((q) => drop(q, `${key} = '${at}'`));
    return { words: `${table} ${at} deleted`, undo: () => free((q) => put(q, row)) };
  }
  if (kind === 'copy') {
    const id = 900_000 + Number(row.id ?? 0);
    const copy = { ...row, ...('id' in row ? { id } : { samples: 999_999 }) };
    await free((q) => put(q, copy));
    const gone = 'id' in row ? `id = ${id}` : 'samples = 999999';
    return { words: `${table} ${at} copied`, undo: () => free((q) => drop(q, gone)) };
  }
  const edited = { ...row, [column]: changed };
  await free(async (q) => {
    await drop(q, key === 'ctid' ? same : `id = ${at}`);
    await put(q, edited);
  });
  const now = key === 'ctid' ? like(edited) : `id = ${at}`;
  return {
    words: `${table} ${at}, ${column}: ${JSON.stringify(row[column])?.slice(0, 60)} → ${JSON.stringify(changed)?.slice(0, 60)}`,
    undo: () =>
      free(async (q) => {
        await drop(q, now);
        await put(q, row);
      }),
  };
}

/** Another value of the same kind; undefined where there is none to be made. */
function alter(value: unknown, random: () => number): unknown {
  if (typeof value === 'number') return value + (Number.isInteger(value) ? 1 : 0.01);
  if (typeof value === 'boolean') return !value;
  if (value === null) return undefined;
  if (typeof value === 'string') {
    if (/^\d{4}-\d\d-\d\dT/.test(value)) return new Date(Date.parse(value) + 60_000).toISOString();
    const i = Math.floor(random() * value.length);
    return value.length ? `${value.slice(0, i)}${value[i] === 'a' ? 'b' : 'a'}${value.slice(i + 1)}` : 'x';
  }
  if (Array.isArray(value)) return value.length ? [alter(value[0], random) ?? 1, ...value.slice(1)] : [1];
  const entries = Object.entries(value as Record<string, unknown>);
  if (entries.length === 0) return { added: 1 };
  const [k, inner] = entries[Math.floor(random() * entries.length)];
  const changed = alter(inner, random);
  return changed === undefined ? undefined : { ...(value as object), [k]: changed };
}
