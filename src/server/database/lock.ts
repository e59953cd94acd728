import { randomBytes } from 'node:crypto';
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, statSync, utimesSync, writeSync } from 'node:fs';
import { hostname } from 'node:os';
import path from 'node:path';

/** ms between two signs of life of the holder, and without one after which a holder on another machine counts as dead. */
const RENEW_MS = 4000;
const DEAD_MS = 20_000;

interface Holder {
  readonly pid: number;
  /** Start time of the process in the system's ticks, because process ids are reused. */
  readonly started: string | null;
  readonly host: string;
  readonly token: string;
}

/** Lock file of a data folder: the database itself does not notice a second process and loses rows. */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, 'veritor.lock');
  const own: Holder = { pid: process.pid, started: startedAt(process.pid), host: hostname(), token: randomBytes(8).toString('hex') };
  for (let tries = 0; tries < 2; tries++) {
    try {
      const fd = openSync(file, 'wx');
      writeSync(fd, JSON.stringify(own));
      closeSync(fd);
      return keepAlive(file, own);
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e;
      const holder = readHolder(file);
      if (isAlive(holder, file))
        throw new Error(
          `the data folder ${folder} is in use by process ${holder?.pid ?? 'unknown'}${holder && holder.host !== own.host ? ` on ${holder.host}` : ''}; stop that one first`,
        );
      rmSync(file, { force: true });
    }
  }
  throw new Error(`the lock of ${folder} cannot be taken`);
}

function keepAlive(file: string, own: Holder): () => void {
  const timer = setInterval(() => {
    try {
      const now = new Date();
      utimesSync(file, now, now);
    } catch {
      // The folder is gone or read-only; the next write reports that.
    }
  }, RENEW_MS);
  timer.unref();
  return () => {
    clearInterval(timer);
    if (readHolder(file)?.token === own.token) rmSync(file, { force: true });
  };
}

function readHolder(file: string): Holder | null {
  try {
    const text = readFileSync(file, 'utf8');
    // Older format: the process id alone.
    if (/^\d+$/.test(text)) return { pid: Number(text), started: null, host: hostname(), token: '' };
    return JSON.parse(text) as Holder;
  } catch {
    return null;
  }
}

function isAlive(holder: Holder | null, file: string): boolean {
  // An empty file may be in the middle of being written; its age decides.
  const isFresh = Date.now() - statSync(file, { throwIfNoEntry: false })!.mtimeMs < DEAD_MS;
  if (!holder) return isFresh;
  // A holder on another machine or in another container is judged by its signs of life alone.
  if (holder.host !== hostname()) return isFresh;
  if (holder.pid === process.pid) return holder.started !== null && holder.started === startedAt(process.pid);
  try {
    process.kill(holder.pid, 0);
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code !== 'EPERM') return false;
  }
  const started = startedAt(holder.pid);
  return holder.started === null || started === null || started === holder.started;
}

/** Start of a process in the system's own ticks; null where the system does not tell. */
function startedAt(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}
