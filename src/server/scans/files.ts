import { createHash } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync, rmSync } from 'node:fs';
import { mkdir, mkdtemp, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { gunzipSync } from 'node:zlib';

/** A stored file: content digest, length, and the first bytes, which identify the format. */
export interface Kept {
  readonly sha256: string;
  readonly size: number;
  readonly head: Uint8Array;
}

const HEAD_BYTES = 4;
/** Bytes that are hashed and written before others are answered. */
const AT_ONCE = 256 * 1024;

/** File store by content: files are named by SHA-256, written under a temporary name, renamed when whole, and never changed. */
export class FileStore {
  private readonly coming: string;
  private count = 0;

  constructor(readonly folder: string) {
    this.coming = path.join(folder, 'coming');
    // Files that an earlier stop left half written are removed.
    rmSync(this.coming, { recursive: true, force: true });
    mkdirSync(this.coming, { recursive: true });
  }

  pathOf(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new RangeError('a stored file is named by 64 hexadecimal digits');
    return path.join(this.folder, sha256.slice(0, 2), sha256);
  }

  /** Stores a stream and syncs it to the disk before it counts. A stream that breaks off leaves nothing. */
  async keep(source: Uint8Array | AsyncIterable<Uint8Array>): Promise<Kept> {
    const beside = path.join(this.coming, `${process.pid}-${this.count++}`);
    const hash = createHash('sha256');
    const head: number[] = [];
    let size = 0;
    try {
      const file = await open(beside, 'wx');
      try {
        for await (const chunk of source instanceof Uint8Array ? slices(source) : source) {
          hash.update(chunk);
          if (head.length < HEAD_BYTES) head.push(...chunk.subarray(0, HEAD_BYTES - head.length));
          size += chunk.length;
          await file.writeFile(chunk);
        }
        await file.sync();
      } finally {
        await file.close();
      }
      const sha256 = hash.digest('hex');
      const place = this.pathOf(sha256);
      await mkdir(path.dirname(place), { recursive: true });
      if (!existsSync(place)) await rename(beside, place);
      return { sha256, size, head: Uint8Array.from(head) };
    } finally {
      await rm(beside, { force: true });
    }
  }

  /** Stores a copy of a file. */
  keepFile(file: string): Promise<Kept> {
    return this.keep(createReadStream(file, { highWaterMark: AT_ONCE }));
  }

  read(sha256: string): Promise<Uint8Array> {
    return readFile(this.pathOf(sha256));
  }

  /** A stored file's content, whether it is kept packed or not. */
  async unpacked(sha256: string): Promise<Uint8Array> {
    const kept = await this.read(sha256);
    return kept[0] === 0x1f && kept[1] === 0x8b ? gunzipSync(kept) : kept;
  }

  /** Streams a stored file as the body of an answer. */
  async stream(sha256: string): Promise<{ body: ReadableStream; size: number; isGzip: boolean }> {
    const place = this.pathOf(sha256);
    const file = await open(place, 'r');
    const first = Buffer.alloc(2);
    await file.read(first, 0, 2, 0);
    await file.close();
    const { size } = await stat(place);
    return { body: Readable.toWeb(createReadStream(place)) as ReadableStream, size, isGzip: first[0] === 0x1f && first[1] === 0x8b };
  }

  /**
   * Deletes files that nothing refers to (left by forms that broke off). Recent files stay, since their records may still be
   * on the way.
   */
  async sweep(isKnown: (sha256: string) => boolean, olderThan_ms = 3_600_000): Promise<number> {
    let count = 0;
    for (const shelf of await readdir(this.folder)) {
      if (!/^[0-9a-f]{2}$/.test(shelf)) continue;
      for (const name of await readdir(path.join(this.folder, shelf))) {
        if (isKnown(name)) continue;
        const file = path.join(this.folder, shelf, name);
        if (Date.now() - (await stat(file)).mtimeMs < olderThan_ms) continue;
        await rm(file, { force: true });
        count++;
      }
    }
    return count;
  }

  /** Runs work with a temporary folder, deleted afterwards. */
  async withFolder<R>(work: (folder: string) => Promise<R>): Promise<R> {
    const folder = await mkdtemp(path.join(this.coming, 'work-'));
    try {
      return await work(folder);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }
}

function* slices(bytes: Uint8Array): Iterable<Uint8Array> {
  for (let i = 0; i < bytes.length; i += AT_ONCE) yield bytes.subarray(i, i + AT_ONCE);
}
