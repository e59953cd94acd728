import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { basisOf, GradeFile } from '#contract/grade.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { differences, resultOf } from '#core/sign/result.ts';
import { auditKey, readLog } from '#server/audit/log.ts';
import { verify } from '#server/audit/verify.ts';
import { lockFolder } from '#server/database/lock.ts';
import { PARSERS } from '#server/database/parsers.ts';
import { type Database, databaseOver, sql } from '#server/database/port.ts';
import { openPostgres } from '#server/database/postgres.ts';
import { UsageError } from './usage.ts';

const say = (line: string): void => void process.stdout.write(`${line}\n`);

/** Opens a data folder for reading; refuses one that a running server holds. */
async function withData<R>(folder: string, work: (db: Database) => Promise<R>): Promise<R> {
  if (process.env.DATABASE_URL) {
    const db = await openPostgres(process.env.DATABASE_URL);
    return work(db).finally(() => db.close());
  }
  const pgFolder = path.join(folder, 'pg');
  if (!existsSync(pgFolder))
    throw new UsageError(`${folder}: there is no database in this folder; name the data folder of an installation`);
  let unlock: () => void;
  try {
    unlock = lockFolder(folder);
  } catch (e) {
    throw new UsageError((e as Error).message);
  }
  try {
    const { PGlite } = await import('@electric-sql/pglite');
    const pg = await PGlite.create(pgFolder, { parsers: PARSERS });
    const db = databaseOver(async (kind, text, parameters) => {
      if (kind === 'exec') await pg.exec(text);
      return kind === 'query' ? (await pg.query(text, parameters)).rows : [];
    });
    return await work(db).finally(() => pg.close());
  } finally {
    unlock();
  }
}

/** Differences between what a record says and what is computed from it again; null where a record does not hold its readings. */
export function regrade(record: unknown): string[] | null {
  const parsed = v.safeParse(GradeFile, record);
  if (!parsed.success) return null;
  const again = resultOf(scoreOf(basisOf(parsed.output)));
  return differences(parsed.output.result, again);
}

function tell(name: string, found: string[] | null): 'same' | 'different' | 'old' {
  if (found === null) {
    say(`${name}: not computed again; it is a record of before and does not hold its readings`);
    return 'old';
  }
  say(found.length === 0 ? `${name}: the same` : `${name}: different: ${found.join('; ')}`);
  return found.length === 0 ? 'same' : 'different';
}

export async function regradeFile(file: string): Promise<number> {
  if (!existsSync(file)) throw new UsageError(`${file}: there is no such file; check the path`);
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    throw new UsageError(`${file}: expected a signed grade as JSON, but it is no JSON; export the grade again`);
  }
  if (regrade(json) === null)
    throw new UsageError(`${file}: expected a signed grade (veritor-grade/2), but it is not one; export the grade again`);
  return tell(file, regrade(json)) === 'same' ? 0 : 1;
}

const Grade = v.object({ attempt_id: v.number(), version: v.number(), record: v.looseObject({}) });

/** Every signed grade of a data folder, computed again. */
export const regradeData = (folder: string): Promise<number> =>
  withData(folder, async (db) => {
    const grades = await db.any(Grade, sql`select attempt_id, version, record from grade order by attempt_id, version`);
    const ends = grades.map((g) => tell(`attempt ${g.attempt_id}, version ${g.version}`, regrade(g.record)));
    const count = (end: string): number => ends.filter((e) => e === end).length;
    say(`${grades.length} grades: ${count('same')} the same, ${count('different')} different, ${count('old')} records of before`);
    return count('different') === 0 ? 0 : 1;
  });

/** The audit chain of a data folder. */
export const verifyData = (folder: string): Promise<number> =>
  withData(folder, async (db) => {
    if (!existsSync(path.join(folder, 'audit.key')))
      throw new UsageError(`${folder}: the key of the audit (audit.key) is not there; put the copy of it back`);
    const { entries, rows, faults } = await verify(db, auditKey(folder), readLog(folder));
    for (const f of faults) say(f);
    say(
      `${entries} entries and ${rows} rows of evidence: ${faults.length === 0 ? 'everything is as it was written' : `${faults.length} faults`}`,
    );
    return faults.length === 0 ? 0 : 1;
  });
