import { existsSync } from 'node:fs';
import path from 'node:path';
import { type Database, openDatabase } from './database/database.ts';
import { migrate } from './database/migrate.ts';
import { JobQueue } from './jobs/queue.ts';
import { PracticeScanner } from './scanner/scanner.ts';
import { FileStore } from './store/files.ts';

/** Everything a request needs, opened once a process. */
export interface App {
  readonly db: Database;
  readonly files: FileStore;
  readonly jobs: JobQueue;
  readonly scanner: PracticeScanner;
  readonly dataFolder: string;
}

const holder = globalThis as typeof globalThis & { veritor?: Promise<App> };

/** Where dist/ and data/ lie: the working folder of the server, or what VERITOR_ROOT says. */
export const rootFolder = (): string => process.env.VERITOR_ROOT ?? process.cwd();
export const dataFolder = (): string => process.env.VERITOR_DATA ?? path.join(rootFolder(), '.data');

export function app(): Promise<App> {
  holder.veritor ??= open().catch((e) => {
    holder.veritor = undefined;
    throw e;
  });
  return holder.veritor;
}

export async function open(options: { jobs?: boolean } = {}): Promise<App> {
  const root = rootFolder();
  const folder = dataFolder();
  const db = await openDatabase(folder, path.join(root, 'dist/workers/database.mjs'));
  const migrations = path.join(root, 'dist/migrations');
  await migrate(db, existsSync(migrations) ? migrations : path.join(root, 'src/migrations'));
  const files = new FileStore(path.join(folder, 'files'));
  const jobs = new JobQueue(db, files, folder, path.join(root, 'dist/workers/measure.mjs'));
  if (options.jobs !== false) await jobs.resume();
  const scanner = new PracticeScanner(path.join(root, 'dist/workers/scanner.mjs'), () => opened);
  const close = (): void => {
    void Promise.all([jobs.stop(), scanner.stop()])
      .then(() => db.close())
      .then(() => process.exit(0));
  };
  process.once('SIGTERM', close);
  process.once('SIGINT', close);
  const opened: App = { db, files, jobs, scanner, dataFolder: folder };
  const demo = process.env.VERITOR_DEMO;
  if (demo) {
    const { seedPeople, seedScans } = await import('./demo.ts');
    const rubrics = path.join(root, 'data/rubrics');
    await seedPeople(opened, demo, rubrics);
    // Scans are measured while the pages are already open: that is how a real day begins, too.
    void seedScans(opened, demo, rubrics).catch((e) => console.error(e));
  }
  return opened;
}
