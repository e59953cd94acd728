import { existsSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { masterArchive } from '../../files/master-archive.ts';
import { type Database, sql } from '../database/port.ts';
import type { FileStore } from './files.ts';

const Old = v.object({ id: v.string(), folder: v.nullable(v.string()) });

/** Moves masters that an older version kept as folders into the file store. */
export async function adoptMasters(db: Database, files: FileStore, dataFolder: string): Promise<void> {
  for (const m of await db.any(Old, sql`select id, folder from master where file_sha256 is null`)) {
    const folder = m.folder === null ? null : path.resolve(dataFolder, m.folder);
    if (folder === null || !existsSync(folder)) continue;
    await keepMaster(db, files, m.id, folder);
  }
}

/** Stores a master's folder as one archive. */
export async function keepMaster(db: Database, files: FileStore, id: string, folder: string): Promise<void> {
  const kept = await files.keep(masterArchive(folder));
  await db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
  await db.run(sql`update master set file_sha256 = ${kept.sha256} where id = ${id}`);
}
