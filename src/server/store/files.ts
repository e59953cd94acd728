import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { mkdir, open, rename } from 'node:fs/promises';
import path from 'node:path';

/** Files by content: named by their SHA-256, written beside first and renamed when whole. */
export class FileStore {
  constructor(readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }
  pathOf(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new RangeError('a stored file is named by 64 hexadecimal digits');
    return path.join(this.folder, sha256.slice(0, 2), sha256);
  }
  /** Written through to the disk before it counts as kept; the server answers others meanwhile. */
  async keep(bytes: Uint8Array): Promise<{ sha256: string; size: number }> {
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const file = this.pathOf(sha256);
    if (!existsSync(file)) {
      await mkdir(path.dirname(file), { recursive: true });
      const beside = `${file}.${process.pid}.${Math.random().toString(36).slice(2)}`;
      const f = await open(beside, 'wx');
      try {
        await f.writeFile(bytes);
        await f.sync();
      } finally {
        await f.close();
      }
      await rename(beside, file);
    }
    return { sha256, size: bytes.length };
  }
  read(sha256: string): Uint8Array {
    return readFileSync(this.pathOf(sha256));
  }
}
