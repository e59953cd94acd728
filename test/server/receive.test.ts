import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { FileStore } from '#server/scans/files.ts';
import { receive } from '#server/scans/receive.ts';

const folders: string[] = [];
let folder: string;
let store: FileStore;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-store-'));
  folders.push(folder);
  store = new FileStore(folder);
});
afterAll(() => {
  for (const f of folders) rmSync(f, { recursive: true, force: true });
});

const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
/** Bytes without a pattern, more than one piece that is written at a time. */
const bytes = (length: number, seed = 1): Uint8Array => {
  const out = new Uint8Array(length);
  let x = seed;
  for (let i = 0; i < length; i++) {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    out[i] = x >>> 24;
  }
  return out;
};
const leftOver = (): string[] => readdirSync(path.join(folder, 'coming'));
const stored = (): string[] => readdirSync(folder).filter((f) => f !== 'coming');
async function* pieces(all: Uint8Array, size: number, breakAt = Infinity): AsyncIterable<Uint8Array> {
  for (let i = 0; i < all.length; i += size) {
    if (i >= breakAt) throw new Error('connection lost');
    yield all.subarray(i, i + size);
  }
}

describe('the store', () => {
  it('names a file by its content, whole or in pieces', async () => {
    const all = bytes(700_001);
    const whole = await store.keep(all);
    const inPieces = await store.keep(pieces(all, 4099));
    expect(whole).toEqual({ sha256: sha(all), size: 700_001, head: all.slice(0, 4) });
    expect(inPieces).toEqual(whole);
    expect(Buffer.compare(await store.read(whole.sha256), all)).toBe(0);
    expect(leftOver()).toEqual([]);
  });
  it('knows the first bytes even when they come one at a time, and that an empty file has none', async () => {
    expect((await store.keep(pieces(bytes(9), 1))).head).toEqual(bytes(9).slice(0, 4));
    expect(await store.keep(new Uint8Array())).toEqual({ sha256: sha(new Uint8Array()), size: 0, head: new Uint8Array() });
  });
  it('keeps nothing of a broken stream', async () => {
    await expect(store.keep(pieces(bytes(5000), 1000, 3000))).rejects.toThrow('connection lost');
    expect([leftOver(), stored()]).toEqual([[], []]);
  });
  it('deletes unreferenced files only', async () => {
    const [known, stray] = [await store.keep(bytes(10)), await store.keep(bytes(11))];
    expect(await store.sweep((s) => s === known.sha256, -1)).toBe(1);
    expect((await store.read(known.sha256)).length).toBe(10);
    await expect(store.read(stray.sha256)).rejects.toThrow();
  });
  it('deletes half-written files at the start', () => {
    writeFileSync(path.join(folder, 'coming', '17-3'), 'half');
    new FileStore(folder);
    expect(leftOver()).toEqual([]);
  });
});

const post = (body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request('http://school.test/', { method: 'POST', body, headers, ...{ duplex: 'half' } });
const form = (...files: [string, string, Uint8Array | null, string?][]): FormData => {
  const f = new FormData();
  for (const [field, name, content, student] of files) {
    if (content) f.append(field, new File([content as BlobPart], name));
    if (student !== undefined) f.append('student', student);
  }
  return f;
};

describe('files that come with a form', () => {
  it('are in the store in their order, with the values beside them', async () => {
    const [a, b] = [bytes(400_000, 2), bytes(150_000, 3)];
    const r = await receive(post(form(['scan', 'H07.stl', a, 'H07'], ['scan', 'Größe 2.stl', b, ''])), store, 'scan');
    expect(r.files.map((f) => [f.name, f.kept.sha256])).toEqual([
      ['H07.stl', sha(a)],
      ['Größe 2.stl', sha(b)],
    ]);
    expect(r.values).toEqual({ student: ['H07', ''] });
  });
  it('of another field, or without a name, are passed over', async () => {
    const r = await receive(post(form(['picture', 'x.png', bytes(10)], ['scan', 'H07.stl', bytes(20)])), store, 'scan');
    expect(r.files.map((f) => f.name)).toEqual(['H07.stl']);
    expect(stored()).toHaveLength(1);
  });
  it('may be absent', async () => expect((await receive(post(form()), store, 'scan')).files).toEqual([]));
  it('lose the folders in their names', async () => {
    const r = await receive(post(form(['scan', '../../etc/H07.stl', bytes(20)])), store, 'scan');
    expect(r.files[0].name).toBe('H07.stl');
  });
  it('that break off are refused without a trace', async () => {
    const whole = post(form(['scan', 'H07.stl', bytes(300_000)]));
    const type = whole.headers.get('content-type') as string;
    const sent = new Uint8Array(await whole.arrayBuffer());
    const half = receive(post(sent.slice(0, 200_000), { 'content-type': type }), store, 'scan');
    await expect(half).rejects.toMatchObject({ kind: 'malformed', message: expect.stringContaining('Send them again') });
    expect([leftOver(), stored()]).toEqual([[], []]);
  });
  it('whose connection is lost are refused too', async () => {
    const whole = post(form(['scan', 'H07.stl', bytes(300_000)]));
    const type = whole.headers.get('content-type') as string;
    const sent = new Uint8Array(await whole.arrayBuffer());
    const source = pieces(sent, 10_000, 100_000)[Symbol.asyncIterator]();
    const lost = new ReadableStream<Uint8Array>({
      async pull(c) {
        try {
          const { value, done } = await source.next();
          if (done) c.close();
          else c.enqueue(value);
        } catch (e) {
          c.error(e);
        }
      },
    });
    await expect(receive(post(lost, { 'content-type': type }), store, 'scan')).rejects.toMatchObject({ kind: 'malformed' });
    expect([leftOver(), stored()]).toEqual([[], []]);
  });
  it('that cannot be written do not keep the sender waiting', async () => {
    const full = { keep: () => Promise.reject(new Error('no space left')) };
    await expect(receive(post(form(['scan', 'H07.stl', bytes(2_000_000)])), full, 'scan')).rejects.toMatchObject({
      kind: 'no-space',
      message: expect.stringContaining('no space left'),
    });
  });
  it('that are too large are refused by name without a trace', async () => {
    const small = { ...FILE_LIMITS, fileBytes: 1000 };
    const sent = receive(post(form(['scan', 'H07.stl', bytes(5000)])), store, 'scan', small);
    await expect(sent).rejects.toMatchObject({
      kind: 'too-large',
      message: expect.stringMatching(/H07\.stl is too large: at most 1,000 bytes/),
    });
    expect(stored()).toEqual([]);
  });
  it.each([
    ['is no form', 'text/plain', 'unsupported'],
    ['has no boundary', 'multipart/form-data', 'malformed'],
  ])('what %s is refused', async (_, type, kind) =>
    expect(receive(post('x', { 'content-type': type }), store, 'scan')).rejects.toMatchObject({ kind }),
  );
});
