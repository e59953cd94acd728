import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import * as v from 'valibot';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPglite } from '#server/database/pglite.ts';
import { sql } from '#server/database/port.ts';

/** A thread that answers as the database's does, and dies when it is told to. */
const MORTAL = `
import { parentPort } from 'node:worker_threads';
parentPort.postMessage({ ready: true });
parentPort.on('message', ({ id, text }) => {
  if (text.includes('die')) process.exit(1);
  parentPort.postMessage({ id, rows: text.includes('select') ? [{ n: 1 }] : [] });
});`;

let folder: string;
const thread = (source: string): string => {
  const file = path.join(folder, 'thread.mjs');
  writeFileSync(file, source);
  return file;
};
const One = v.object({ n: v.number() });
const lock = (): string => path.join(folder, 'data/veritor.lock');
const open = (source: string, onLost?: (e: Error) => void) => openPglite(path.join(folder, 'data'), thread(source), onLost);

beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-database-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

describe('a database thread that dies', () => {
  it('rejects open requests and is restarted once', async () => {
    const lost = vi.fn();
    const db = await open(MORTAL, lost);
    await expect(db.run(sql`die`)).rejects.toThrow('the database thread ended with code 1');
    expect(await db.one(One, sql`select 1 as n`)).toEqual({ n: 1 });
    expect(lost).not.toHaveBeenCalled();
    await db.close();
  });

  it('ends the server at the second death instead of never answering', async () => {
    const lost = vi.fn();
    const db = await open(MORTAL, lost);
    await db.run(sql`die`).catch(() => undefined);
    await db.run(sql`die`).catch(() => undefined);
    await vi.waitFor(() => expect(lost).toHaveBeenCalledTimes(1));
    await expect(db.one(One, sql`select 1 as n`)).rejects.toThrow('ended');
    await db.close();
  });
});

describe('the lock of a data folder', () => {
  it('is released by a start that fails, so that the next one works', async () => {
    await expect(open(`throw new Error('the files are damaged');`)).rejects.toThrow('the files are damaged');
    expect(existsSync(lock())).toBe(false);
    const db = await open(MORTAL);
    expect(existsSync(lock())).toBe(true);
    await db.close();
    expect(existsSync(lock())).toBe(false);
  });
});
