import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import * as v from 'valibot';
import { lockFolder } from './lock.ts';

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

/** Queries named by how many rows they give; every row is checked against its schema. */
export interface Queries {
  one<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S>>;
  maybeOne<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S> | null>;
  any<S extends v.GenericSchema>(row: S, s: Statement): Promise<v.InferOutput<S>[]>;
  run(s: Statement): Promise<void>;
}

/** Sends one statement to whoever owns the database and gives back its rows. */
export type Send = (kind: 'query' | 'exec' | 'close', text: string, parameters?: unknown[]) => Promise<unknown[]>;

function queries(send: Send): Queries {
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

export async function openDatabase(dataFolder: string, workerFile: string): Promise<Database> {
  mkdirSync(dataFolder, { recursive: true });
  const unlock = lockFolder(dataFolder);
  const folder = path.join(dataFolder, 'pg');
  const template = templateBeside(workerFile);
  const worker = new Worker(workerFile, {
    workerData: { folder, template: existsSync(folder) || !existsSync(template) ? null : template },
  });
  const waiting = new Map<number, { resolve: (rows: unknown[]) => void; reject: (e: Error) => void }>();
  let next = 0;
  await new Promise<void>((resolve, reject) => {
    worker.once('error', reject);
    worker.on(
      'message',
      (m: { ready?: true; id?: number; rows?: unknown[]; error?: { message: string; code?: string; constraint?: string } }) => {
        if (m.ready) return resolve();
        const w = waiting.get(m.id ?? -1);
        waiting.delete(m.id ?? -1);
        if (m.error) w?.reject(new DatabaseError(m.error.message, m.error.code, m.error.constraint));
        else w?.resolve(m.rows ?? []);
      },
    );
  });
  worker.on('error', (e) => {
    for (const w of waiting.values()) w.reject(e as Error);
    waiting.clear();
  });
  const send: Send = (kind, text, parameters = []) =>
    new Promise((resolve, reject) => {
      const id = next++;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ id, kind, text, parameters });
    });
  return databaseOver(send, async () => {
    await worker.terminate();
    unlock();
  });
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
          await send('exec', 'rollback');
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

/** The empty initialised database that the build left: unpacking it takes a tenth of making one. */
const templateBeside = (workerFile: string): string => path.join(path.dirname(workerFile), '..', 'database-template.tar.gz');
