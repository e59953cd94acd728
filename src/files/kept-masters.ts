import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { fromKept, type KeptMaster, keptOf } from '#core/master/kept.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { loadMaster } from './master-files.ts';
import { packed, unpacked } from './packed.ts';

/** Masters that are kept: those used last. */
const MOST = 4;
const ENDING = '.master';
/** Bytes before the values: their check sum. */
const HEAD = 8;

/**
 * Masters made ready, kept in a folder of this program's own by the content of their files: commands that measure one scan each of the same master make
 * it ready once. A file that is damaged, or whose folder cannot be written, is as one that is not there.
 */
export class KeptMasters {
  private readonly fresh = new Map<string, Master>();

  /** `program` names the sources that made them, since others may make them otherwise; without it nothing is kept. */
  constructor(
    private readonly folder: string,
    private readonly program: string | null,
  ) {}

  async at(where: string): Promise<Master> {
    const content = this.contentOf(where);
    const file = content && path.join(this.folder, `${content}${ENDING}`);
    const known = file && read(file);
    if (known) return known;
    const { description, meshes } = await loadMaster(where);
    const master = prepareMaster(description, meshes);
    if (file) this.fresh.set(file, master);
    return master;
  }

  /** Writes what was made ready: called when the command's own work is done. */
  keep(): void {
    try {
      for (const [file, master] of this.fresh) write(file, packed(keptOf(master)));
      if (this.fresh.size) this.forgetOldest();
    } catch (e) {
      // No room, or no right to write there: the next command makes it ready again.
      if (!(e as NodeJS.ErrnoException).code) throw e;
    }
  }

  private forgetOldest(): void {
    const files = readdirSync(this.folder).filter((n) => n.endsWith(ENDING));
    const byUse = files.map((n) => path.join(this.folder, n)).sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs);
    for (const old of byUse.slice(MOST)) rmSync(old, { force: true });
  }

  /** Check sum of all that a master is made of; null where that cannot be told, and reading it will say why. */
  private contentOf(where: string): string | null {
    if (this.program === null) return null;
    const hash = createHash('sha256').update(this.program);
    try {
      if (!statSync(where).isDirectory()) return hash.update(readFileSync(where)).digest('hex');
      const json = readFileSync(path.join(where, 'master.json'));
      hash.update(json);
      const here = new Set(readdirSync(where));
      for (const name of Object.values(JSON.parse(json.toString('utf8')).meshes)) {
        if (name === null) continue;
        if (!here.has(String(name))) return null;
        hash.update(readFileSync(path.join(where, String(name))));
      }
      return hash.digest('hex');
    } catch {
      return null;
    }
  }
}

function write(file: string, values: Uint8Array): void {
  mkdirSync(path.dirname(file), { recursive: true });
  const head = Buffer.alloc(HEAD);
  head.writeUInt32LE(crc32(values));
  // Written whole before it has its name: another command may be reading.
  const part = `${file}.${process.pid}`;
  writeFileSync(part, head);
  writeFileSync(part, values, { flag: 'a' });
  renameSync(part, file);
}

function read(file: string): Master | null {
  if (!existsSync(file)) return null;
  const bytes = readFileSync(file);
  const values = bytes.subarray(HEAD);
  if (bytes.length <= HEAD || crc32(values) !== bytes.readUInt32LE(0)) return null;
  const now = new Date();
  utimesSync(file, now, now);
  return fromKept(unpacked(values) as KeptMaster);
}
