import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { type Database, sql } from './port.ts';

const Applied = v.object({ name: v.string(), sha256: v.string() });

/** Applies the numbered .sql files that were not applied yet, each once, in a transaction. An applied file must not change. */
export async function migrate(db: Database, folder: string): Promise<string[]> {
  await db.exec(
    'create table if not exists migration (name text primary key, sha256 text not null, applied_at timestamptz not null default now())',
  );
  const applied = new Map((await db.any(Applied, sql`select name, sha256 from migration`)).map((m) => [m.name, m.sha256]));
  const known = readdirSync(folder);
  const newer = [...applied.keys()].filter((name) => !known.includes(name));
  if (newer.length)
    throw new Error(`this data folder was written by a newer version (${newer.join(', ')}); start that one, or restore a backup of before`);
  const done: string[] = [];
  for (const name of readdirSync(folder)
    .filter((f) => /^\d{4}-.*\.sql$/.test(f))
    .sort()) {
    const text = readFileSync(path.join(folder, name), 'utf8');
    const sha256 = createHash('sha256').update(text).digest('hex');
    const before = applied.get(name);
    if (before === sha256) continue;
    if (before) throw new Error(`migration ${name} was changed after it had been applied; add a new one instead`);
    await db.exec(`begin;\n${text}\n;insert into migration (name, sha256) values ('${name}', '${sha256}');\ncommit;`).catch(async (e) => {
      await db.exec('rollback');
      throw new Error(`migration ${name}: ${(e as Error).message}`);
    });
    done.push(name);
  }
  return done;
}
