import * as v from 'valibot';
import { type Database, type Queries, sql } from '../database/port.ts';
import { adoptOldRecords } from './adopt.ts';
import { AuditRow, append, digestOf, type Entry, GENESIS, type Written } from './chain.ts';
import { AuditLog, auditKey, readLog } from './log.ts';

/** Writes an audit entry in the transaction of the act. */
export type Note = (e: Entry) => Promise<void>;

/**
 * The only way records change: an act checks, writes and adds its audit entry in one transaction. Then the chain's head is appended to the log outside the database (synced to the disk where the act asks for it), and watchers are notified.
 */
export class Records {
  private constructor(
    private readonly db: Database,
    private readonly key: Uint8Array,
    private readonly log: AuditLog,
    private readonly onChange: () => void,
  ) {}

  /** Opens the chain of a data folder; vouches for what an older version left, and catches the log up after a crash. */
  static async open(db: Database, dataFolder: string, onChange: () => void): Promise<Records> {
    const key = auditKey(dataFolder);
    await db.transaction((q) => adoptOldRecords(q, key));
    const log = new AuditLog(dataFolder);
    const behind = await entriesAfter(db, key, readLog(dataFolder));
    for (const w of behind) log.append(w.id, w.digest);
    log.sync();
    return new Records(db, key, log, onChange);
  }

  async act<R>(work: (q: Queries, note: Note) => Promise<R>, options: { readonly isDurable?: boolean } = {}): Promise<R> {
    const written: Written[] = [];
    const result = await this.db.transaction((q) =>
      work(q, async (e) => {
        written.push(await append(q, this.key, e));
      }),
    );
    for (const w of written) this.log.append(w.id, w.digest);
    if (options.isDurable) this.log.sync();
    this.onChange();
    return result;
  }

  /** Adds an audit entry without a change of records: a sign-in, a refusal. */
  note(e: Entry): Promise<void> {
    return this.act((_, note) => note(e));
  }

  close(): void {
    this.log.close();
  }
}

/** Appends entries that were committed but did not reach the log because the process died in between; only for a chain that verifies. */
async function entriesAfter(db: Queries, key: Uint8Array, log: ReadonlyMap<number, string>): Promise<Written[]> {
  const last = log.size;
  const entries = await db.any(
    AuditRow,
    sql`select id, at, person_id, action, subject, details, digest from audit where id > ${last} order by id`,
  );
  let before = log.get(last) ?? GENESIS;
  const out: Written[] = [];
  for (const { digest, ...row } of entries) {
    if (digestOf(key, row, before) !== digest) break;
    out.push({ id: row.id, digest });
    before = digest;
  }
  return out;
}

const Head = v.object({ id: v.number(), digest: v.string() });
/** Newest entry of the chain. */
export const headOf = (q: Queries) => q.maybeOne(Head, sql`select id, digest from audit order by id desc limit 1`);
