import * as v from 'valibot';

/** A statement made by the `sql` tag: values never become part of the text. */
export interface Statement {
  readonly text: string;
  readonly parameters: unknown[];
}

export function sql(parts: TemplateStringsArray, ...values: unknown[]): Statement {
  let text = parts[0];
  const parameters: unknown[] = [];
  values.forEach((value, i) => {
    if (value === undefined)
      throw new TypeError(
        `value ${i + 1} of the statement "${parts[0].trim().slice(0, 60)}…" is undefined; say null when nothing is meant`,
      );
    parameters.push(value !== null && typeof value === 'object' && !(value instanceof Date) ? JSON.stringify(value) : value);
    text += `$${i + 1}${parts[i + 1]}`;
  });
  return { text, parameters };
}

export class DatabaseError extends Error {
  constructor(
    message: string,
    readonly code: string | undefined,
    readonly constraint: string | undefined,
  ) {
    super(message);
  }
}

/** Queries named by the number of rows they return; each row is checked against its schema. */
export interface Queries {
  one<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S>>;
  maybeOne<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S> | null>;
  any<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S>[]>;
  run(s: Statement): Promise<void>;
}

/** Sends one statement to the owner of the database and returns the rows. */
export type Send = (kind: 'query' | 'exec' | 'close', text: string, parameters?: unknown[]) => Promise<unknown[]>;

export function queries(send: Send): Queries {
  const rows = async <S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S>[]> =>
    (await send('query', s.text, s.parameters)).map((r) => v.parse(row, r));
  return {
    any: rows,
    async maybeOne(row, s) {
      const found = await rows(row, s);
      if (found.length > 1) throw new Error(`expected one row at the most, got ${found.length}: ${s.text}`);
      return found[0] ?? null;
    },
    async one(row, s) {
      const found = await rows(row, s);
      if (found.length !== 1) throw new Error(`expected one row, got ${found.length}: ${s.text}`);
      return found[0];
    },
    async run(s) {
      await send('query', s.text, s.parameters);
    },
  };
}

export interface Database extends Queries {
  /** All or nothing; other statements wait until it is done. */
  transaction<R>(work: (q: Queries) => Promise<R>): Promise<R>;
  exec(text: string): Promise<void>;
  close(): Promise<void>;
}

/** Queries and transactions over one connection, whose statements run in the order they are sent. */
export function databaseOver(send: Send, end: () => Promise<void> = async () => undefined): Database {
  // A transaction holds everyone else back: the statements of one connection must not mix.
  let gate: Promise<unknown> = Promise.resolve();
  const gated: Send = (kind, text, parameters) => gate.then(() => send(kind, text, parameters));
  return {
    ...queries(gated),
    exec: async (text) => {
      await gated('exec', text);
    },
    transaction(work) {
      const result = gate.then(async () => {
        await send('exec', 'begin');
        try {
          const r = await work(queries(send));
          await send('exec', 'commit');
          return r;
        } catch (e) {
          // The roll-back may fail as well; the first error is the one to report.
          await send('exec', 'rollback').catch(() => undefined);
          throw e;
        }
      });
      gate = result.catch(() => undefined);
      return result;
    },
    async close() {
      await gated('close', '').catch(() => undefined);
      await end();
    },
  };
}
