import { randomBytes } from 'node:crypto';
import { chmodSync, closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs';
import path from 'node:path';

/**
 * The chain's key: made once, beside the database and readable by the server alone. Who copies it can forge entries; keep a
 * copy elsewhere, for without it nothing can be verified.
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

/** The chain's heads outside of the database: one line per entry, appended and never rewritten. */
export class AuditLog {
  private readonly fd: number;

  constructor(dataFolder: string) {
    this.fd = openSync(logFile(dataFolder), 'a');
  }

  append(id: number, digest: string): void {
    writeSync(this.fd, lineOf(id, digest));
  }

  /** What was appended is on the disk when this returns: an answer "signed" comes only after it. */
  sync(): void {
    fsyncSync(this.fd);
  }

  close(): void {
    closeSync(this.fd);
  }
}

const logFile = (dataFolder: string): string => path.join(dataFolder, 'audit.log');

/** Digest of each entry as the log has it. A last line that a power failure cut off is none. */
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
