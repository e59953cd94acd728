import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import path from 'node:path';

/** A file that is kept: its content's name, its length, and its first bytes, which tell what it is. */
export interface Kept {
  readonly sha256: string;
  readonly size: number;
  readonly head: Uint8Array;
}

const HEAD_BYTES = 4;
/** Bytes that are hashed and written before others are answered. */
const AT_ONCE = 256 * 1024;

/** Files by content: named by their SHA-256, written beside first and renamed when whole. */
export class FileStore {
  private readonly coming: string;
  private count = 0;

  constructor(readonly folder: string) {
    this.coming = path.join(folder, 'coming');
    // What an earlier stop left half written is nobody's.
    rmSync(this.coming, { recursive: true, force: true });
    mkdirSync(this.coming, { recursive: true });
  }

  pathOf(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new RangeError('a stored file is named by 64 hexadecimal digits');
    return path.join(this.folder, sha256.slice(0, 2), sha256);
  }

  /** Takes bytes as they come; written through to the disk before they count as kept. A source that breaks off leaves nothing. */
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

  read(sha256: string): Uint8Array {
    return readFileSync(this.pathOf(sha256));
  }

  /** Lets go of what nothing refers to. */
  async discard(sha256: string): Promise<void> {
    await rm(this.pathOf(sha256), { force: true });
  }
}

function* slices(bytes: Uint8Array): Iterable<Uint8Array> {
  for (let i = 0; i < bytes.length; i += AT_ONCE) yield bytes.subarray(i, i + AT_ONCE);
}
