import * as v from 'valibot';
import { type Database, type Queries, sql } from '../database/port.ts';
import { adoptOldRecords } from './adopt.ts';
import { AuditRow, append, digestOf, type Entry, GENESIS, type Written } from './chain.ts';
import { AuditLog, auditKey, readLog } from './log.ts';

/** Writes an audit entry in the transaction of the act. */
export type Note = (e: Entry) => Promise<void>;

/**
 * The one way in which records change: an act checks, writes and notes in one transaction. After it the chain's head stands in
 * the log outside of the database, on the disk where the act asks for that, and whoever watches is told.
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

  /** Notes what changed nothing but should be known: a sign-in, a refusal. */
  note(e: Entry): Promise<void> {
    return this.act((_, note) => note(e));
  }

  close(): void {
    this.log.close();
  }
}

/** Entries that were committed and never reached the log, because the process died between the two. Only a true chain is caught up. */
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
