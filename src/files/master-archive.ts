import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';

/** A master folder as one zip whose bytes depend on its files alone: the same master has the same content. */
export function masterArchive(dir: string): Uint8Array {
  const names = readdirSync(dir).filter((n) => /\.(json|ply)$/.test(n));
  return zipSync(Object.fromEntries(names.sort().map((n) => [n, readFileSync(path.join(dir, n))])), {
    level: 1,
    mtime: new Date('2000-01-01T00:00:00Z'),
  });
}
