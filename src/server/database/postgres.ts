import pg from 'pg';
import { type Database, DatabaseError, queries, type Send } from './port.ts';

const { types } = pg;
/** The same types as with PGlite: numbers as numbers, dates as ISO text, timestamps in UTC. */
const INT8 = 20;
const NUMERIC = 1700;
const DATE = 1082;
const TIMESTAMPTZ = 1184;
types.setTypeParser(INT8, Number);
types.setTypeParser(NUMERIC, Number);
types.setTypeParser(DATE, (s) => s);
types.setTypeParser(TIMESTAMPTZ, (s) => new Date(s).toISOString());

/** PostgreSQL over a pool of connections; the same statements and migrations as on PGlite. */
export async function openPostgres(url: string): Promise<Database> {
  const pool = new pg.Pool({ connectionString: url, max: 8, options: '-c TimeZone=UTC' });
  pool.on('error', (e) => console.error(e));
  const over =
    (ask: (text: string, parameters?: unknown[]) => Promise<{ rows: unknown[] }>): Send =>
    async (kind, text, parameters = []) => {
      if (kind === 'close') return [];
      try {
        const { rows } = kind === 'exec' ? await ask(text) : await ask(text, parameters);
        return rows ?? [];
      } catch (e) {
        const { message, code, constraint } = e as { message: string; code?: string; constraint?: string };
        throw new DatabaseError(message, code, constraint);
      }
    };
  const send = over((text, parameters) => pool.query(text, parameters));
  await send('query', 'select 1');
  // Acts run one after the other, as on PGlite, because each audit entry follows the one before.
  let gate: Promise<unknown> = Promise.resolve();
  return {
    ...queries(send),
    exec: async (text) => {
      await send('exec', text);
    },
    transaction(work) {
      const result = gate.then(async () => {
        const client = await pool.connect();
        const own = over((text, parameters) => client.query(text, parameters));
        try {
          await own('exec', 'begin');
          // Another process may write entries too: one at a time.
          await own('exec', 'select pg_advisory_xact_lock(7214)');
          const r = await work(queries(own));
          await own('exec', 'commit');
          return r;
        } catch (e) {
          await own('exec', 'rollback').catch(() => undefined);
          throw e;
        } finally {
          client.release();
        }
      });
      gate = result.catch(() => undefined);
      return result;
    },
    close: () => pool.end(),
  };
}
