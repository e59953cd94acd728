// The one thread that owns the database. Everything else sends it statements.
import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { PARSERS } from './parsers.ts';

interface Request {
  readonly id: number;
  readonly kind: 'query' | 'exec' | 'dump' | 'close';
  readonly text: string;
  readonly parameters: unknown[];
}

const { folder, template } = workerData as { folder: string; template: string | null };
const port = parentPort;
if (!port) throw new Error('the database thread has no one to talk to');

const db = await PGlite.create(folder, {
  parsers: PARSERS,
  ...(template ? { loadDataDir: new Blob([readFileSync(template)]) } : {}),
});
port.postMessage({ ready: true });

// Statements run one after the other, in the order they came.
let last: Promise<unknown> = Promise.resolve();
port.on('message', (r: Request) => {
  last = last.then(() => answer(r));
});

async function answer(r: Request): Promise<void> {
  try {
    if (r.kind === 'exec') await db.exec(r.text);
    else if (r.kind === 'close') await db.close();
    const rows = r.kind === 'query' ? (await db.query(r.text, r.parameters)).rows : [];
    port?.postMessage({ id: r.id, rows });
  } catch (e) {
    const { message, code, constraint } = e as { message: string; code?: string; constraint?: string };
    port?.postMessage({ id: r.id, error: { message, code, constraint } });
  }
}
