import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { lockFolder } from './lock.ts';
import { type Database, DatabaseError, databaseOver, type Send } from './port.ts';

interface Answer {
  readonly ready?: true;
  readonly id?: number;
  readonly rows?: unknown[];
  readonly error?: { readonly message: string; readonly code?: string; readonly constraint?: string };
}

/** One run of the thread that owns the database. */
class Owner {
  private readonly waiting = new Map<number, { resolve: (rows: unknown[]) => void; reject: (e: Error) => void }>();
  private next = 0;
  private gone: Error | null = null;

  private constructor(
    private readonly worker: Worker,
    private readonly onDeath: (e: Error) => void,
  ) {
    worker.on('message', (m: Answer) => this.take(m));
    worker.on('error', (e) => this.die(e as Error));
    worker.on('exit', (code) => this.die(new Error(`the database thread ended with code ${code}`)));
  }

  static open(file: string, workerData: unknown, onDeath: (e: Error) => void): Promise<Owner> {
    const worker = new Worker(file, { workerData });
    return new Promise((resolve, reject) => {
      const owner = new Owner(worker, onDeath);
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`the database thread ended with code ${code} while it was opened`)));
      worker.on('message', (m: Answer) => m.ready && resolve(owner));
    });
  }

  send(kind: string, text: string, parameters: unknown[]): Promise<unknown[]> {
    if (this.gone) return Promise.reject(this.gone);
    return new Promise((resolve, reject) => {
      const id = this.next++;
      this.waiting.set(id, { resolve, reject });
      this.worker.postMessage({ id, kind, text, parameters });
    });
  }

  async end(): Promise<void> {
    this.gone = new Error('the database is closed');
    await this.worker.terminate();
  }

  private take(m: Answer): void {
    const w = this.waiting.get(m.id ?? -1);
    this.waiting.delete(m.id ?? -1);
    if (m.error) w?.reject(new DatabaseError(m.error.message, m.error.code, m.error.constraint));
    else w?.resolve(m.rows ?? []);
  }

  /** Requests that the ended thread can no longer answer are rejected. */
  private die(e: Error): void {
    if (this.gone) return;
    this.gone = e;
    for (const w of this.waiting.values()) w.reject(e);
    this.waiting.clear();
    this.onDeath(e);
  }
}

/**
 * PGlite in a thread of its own, on a folder that belongs to this process. A thread that dies is started again once; when that
 * does not help either, `onLost` ends the process with a message.
 */
export async function openPglite(
  dataFolder: string,
  workerFile: string,
  onLost: (e: Error) => void = (e) => {
    process.stderr.write(`The database cannot be reached any more (${e.message}). Start Veritor again; what was answered is kept.\n`);
    process.exit(1);
  },
): Promise<Database> {
  mkdirSync(dataFolder, { recursive: true });
  const unlock = lockFolder(dataFolder);
  const folder = path.join(dataFolder, 'pg');
  const template = templateBeside(workerFile);
  let owner: Promise<Owner>;
  let restarts = 0;
  let hasOpened = false;
  const start = (): Promise<Owner> =>
    Owner.open(workerFile, { folder, template: existsSync(folder) || !existsSync(template) ? null : template }, (e) => {
      // A first start that fails is the caller's to hear of.
      if (!hasOpened) return;
      if (restarts++ > 0) return onLost(e);
      owner = start();
      owner.catch(onLost);
    });
  owner = start();
  try {
    await owner;
    hasOpened = true;
  } catch (e) {
    unlock();
    throw e;
  }
  const send: Send = async (kind, text, parameters = []) => (await owner).send(kind, text, parameters);
  return databaseOver(send, async () => {
    await (await owner).end();
    unlock();
  });
}

/** The empty initialised database that the build left: unpacking it takes a tenth of making one. */
const templateBeside = (workerFile: string): string => path.join(path.dirname(workerFile), '..', 'database-template.tar.gz');
