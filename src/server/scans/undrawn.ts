import { createHash } from 'node:crypto';
import { type Database, sql } from '../database/port.ts';
import type { FileStore } from './files.ts';

/** Content of the file that stands for a picture which has not been drawn yet. */
const NOTHING = new TextEncoder().encode('not drawn yet: the scan is cut again from its recipe when somebody looks at it\n');
export const UNDRAWN = createHash('sha256').update(NOTHING).digest('hex');

/** Stores the stand-in and gives its name. */
export async function keepNothing(files: FileStore, db: Database): Promise<string> {
  const { sha256, size } = await files.keep(NOTHING);
  await db.run(sql`insert into stored_file (sha256, size_bytes) values (${sha256}, ${size}) on conflict do nothing`);
  return sha256;
}
