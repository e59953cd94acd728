import { existsSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { firstLink } from './account/first-start.ts';
import { SignInThrottle } from './account/throttle.ts';
import type { App } from './app.ts';
import { Records } from './audit/records.ts';
import { ChildPool } from './children/pool.ts';
import { migrate } from './database/migrate.ts';
import { openPglite } from './database/pglite.ts';
import { type Database, sql } from './database/port.ts';
import { openPostgres } from './database/postgres.ts';
import { Redraw } from './demo/redraw.ts';
import { fillLines } from './progress/lines.ts';
import { Pulse } from './pulse.ts';
import { PracticeScanner } from './scanner/scanner.ts';
import { bringBytes } from './scans/bring.ts';
import { FileStore } from './scans/files.ts';
import { adoptMasters } from './scans/masters.ts';
import { JobQueue } from './scans/queue.ts';

const holder = globalThis as typeof globalThis & { veritor?: Promise<App> };

/** Folder that holds dist/ and data/: VERITOR_ROOT, otherwise the server's working folder. */
export const rootFolder = (): string => process.env.VERITOR_ROOT ?? process.cwd();
export const dataFolder = (): string => process.env.DATA_DIR ?? process.env.VERITOR_DATA ?? path.join(rootFolder(), '.data');

export function app(): Promise<App> {
  holder.veritor ??= open().catch((e) => {
    holder.veritor = undefined;
    throw e;
  });
  return holder.veritor;
}

const Known = v.object({ sha256: v.string() });

/**
 * Opens the database of a data folder and applies its migrations: PostgreSQL if DATABASE_URL names one, otherwise PGlite in
 * the folder.
 */
export async function openData(root: string, folder: string): Promise<Database> {
  const url = process.env.DATABASE_URL;
  const db = url ? await openPostgres(url) : await openPglite(folder, path.join(root, 'dist/workers/database.mjs'));
  const migrations = path.join(root, 'dist/migrations');
  try {
    await migrate(db, existsSync(migrations) ? migrations : path.join(root, 'src/migrations'));
  } catch (e) {
    await db.close();
    throw e;
  }
  return db;
}

export async function open(options: { jobs?: boolean } = {}): Promise<App> {
  const root = rootFolder();
  const folder = dataFolder();
  const db = await openData(root, folder);
  const pulse = new Pulse();
  const files = new FileStore(path.join(folder, 'files'));
  await adoptMasters(db, files, folder);
  const records = await Records.open(db, folder, () => pulse.bump());
  const known = new Set((await db.any(Known, sql`select sha256 from stored_file`)).map((r) => r.sha256));
  await files.sweep((sha256) => known.has(sha256));
  const children = new ChildPool(path.join(root, 'dist/workers/child.mjs'));
  const scanner = new PracticeScanner(path.join(root, 'dist/workers/scanner.mjs'), db, (sitting, name, bytes, person) =>
    bringBytes(opened, sitting, name, bytes, person),
  );
  const redraw = process.env.VERITOR_DEMO ? new Redraw(db, files, children, scanner) : null;
  const jobs = new JobQueue(
    db,
    records,
    files,
    children,
    () => pulse.bump(),
    async (exercise) => (await redraw?.master(exercise)) ?? null,
  );
  const opened: App = {
    db,
    records,
    files,
    children,
    jobs,
    scanner,
    redraw,
    throttle: new SignInThrottle(),
    pulse,
    dataFolder: folder,
    standardsFolder: path.join(root, 'data/standards'),
  };
  await fillLines(db);
  if (options.jobs !== false) await jobs.resume();
  closeOnSignal(db, jobs, [children, scanner]);
  const demo = process.env.VERITOR_DEMO;
  const first = demo ? null : await firstLink(db);
  if (first) process.stdout.write(`First start: open http://127.0.0.1:${process.env.PORT ?? 4321}${first}\n`);
  if (demo) {
    const { seedSchool, seedWork } = await import('./demo/demo.ts');
    await seedSchool(opened, demo, root);
    // Measuring starts after the pages are served.
    void seedWork(opened, demo, root).catch((e) => console.error(e));
  }
  return opened;
}

/** ms that a stopping server waits for running requests. */
const DRAIN_MS = 8000;

function closeOnSignal(db: Database, jobs: JobQueue, workers: readonly { stop(): Promise<unknown> }[]): void {
  const close = (): void => {
    setTimeout(() => process.exit(0), DRAIN_MS).unref();
    jobs.stop();
    void Promise.all(workers.map((w) => w.stop()))
      .then(() => db.close())
      .then(() => process.exit(0));
  };
  process.once('SIGTERM', close);
  process.once('SIGINT', close);
}

/** Rejects when the application cannot answer: its database does not open or does not reply. */
export async function ready(): Promise<void> {
  await (await app()).db.one(v.object({ ok: v.number() }), sql`select 1 as ok`);
}
