import { randomBytes } from 'node:crypto';
import { chmodSync, closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs';
import path from 'node:path';

/**
 * The chain's key, made once beside the database and readable only by the server. A person with the key can forge entries;
 * without it nothing can be verified, so keep a copy elsewhere.
 */
export function auditKey(dataFolder: string): Uint8Array {
  const file = path.join(dataFolder, 'audit.key');
  mkdirSync(dataFolder, { recursive: true });
  if (!existsSync(file)) {
    writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' });
    chmodSync(file, 0o600);
  }
  const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'hex');
  if (key.length !== 32) throw new Error(`${file} should hold 64 hexadecimal digits; put the copy of the key back`);
  return key;
}

const lineOf = (id: number, digest: string): string => `${id} ${digest}\n`;

/** The log of the chain's digests outside the database: one line per entry, only ever appended. */
export class AuditLog {
  private readonly fd: number;

  constructor(dataFolder: string) {
    this.fd = openSync(logFile(dataFolder), 'a');
  }

  append(id: number, digest: string): void {
    writeSync(this.fd, lineOf(id, digest));
  }

  /** Returns after the line is on the disk, so that "signed" is answered only after that. */
  sync(): void {
    fsyncSync(this.fd);
  }

  close(): void {
    closeSync(this.fd);
  }
}

const logFile = (dataFolder: string): string => path.join(dataFolder, 'audit.log');

/** Digests in the log by entry. A last line cut off by a power failure does not count. */
export function readLog(dataFolder: string): Map<number, string> {
  const heads = new Map<number, string>();
  const file = logFile(dataFolder);
  if (!existsSync(file)) return heads;
  for (const line of readFileSync(file, 'utf8').split('\n')) {
    const found = /^(\d+) ([0-9a-f]{64})$/.exec(line);
    if (found) heads.set(Number(found[1]), found[2]);
  }
  return heads;
}
