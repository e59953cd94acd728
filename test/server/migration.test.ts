import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { personById } from '#server/account/sign-in.ts';
import { auditKey, readLog } from '#server/audit/log.ts';
import { Records } from '#server/audit/records.ts';
import { verify } from '#server/audit/verify.ts';
import { migrate } from '#server/database/migrate.ts';
import { type Database, sql } from '#server/database/port.ts';
import { trailView } from '#server/progress/trail.ts';
import { benchView, releasedView } from '#server/view/bench.ts';
import { memoryDatabase } from '../helpers/school.ts';

/** Demo data written before migration 0007: three attempts with scans, readings, a judgement, a pin, grades. */
const BEFORE = readFileSync('test/fixtures/school-before-evidence.sql', 'utf8');
const Count = v.object({ n: v.number() });

let db: Database;
let folder: string;
const counts: Record<string, number> = {};
const countOf = async (table: string) => (await db.one(Count, { text: `select count(*) as n from ${table}`, parameters: [] })).n;
beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-before-'));
  db = await memoryDatabase();
  await db.exec(
    'create table if not exists migration (name text primary key, sha256 text not null, applied_at timestamptz not null default now())',
  );
  for (const name of readdirSync('src/migrations')
    .filter((f) => f < '0007')
    .sort()) {
    const text = readFileSync(path.join('src/migrations', name), 'utf8');
    await db.exec(text);
    await db.run(sql`insert into migration (name, sha256) values (${name}, ${createHash('sha256').update(text).digest('hex')})`);
  }
  await db.exec('delete from phrase');
  await db.exec(BEFORE);
  for (const t of ['person', 'attempt', 'scan', 'measurement', 'reading', 'grade', 'hand_reading', 'pin', 'audit', 'stored_file'])
    counts[t] = await countOf(t);
  counts.judged = (await db.one(Count, sql`select count(*) as n from judgement where level is not null or waived`)).n;
  counts.remarks = (await db.one(Count, sql`select count(*) as n from judgement where comment is not null`)).n;
  counts.released = (await db.one(Count, sql`select count(*) as n from attempt where released_at is not null`)).n;
  await migrate(db, 'src/migrations');
  (await Records.open(db, folder, () => undefined)).close();
});
afterAll(async () => {
  await db.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('a data folder of the version before', () => {
  it('keeps all its rows', async () => {
    for (const t of ['person', 'attempt', 'scan', 'measurement', 'reading', 'grade', 'hand_reading', 'pin', 'stored_file'])
      expect(await countOf(t), t).toBe(counts[t]);
    expect(await countOf('judgement')).toBe(counts.judged);
    expect(await countOf('remark')).toBe(counts.remarks);
    expect(await countOf('release')).toBe(counts.released);
    expect(await countOf('audit_before')).toBe(counts.audit);
    expect(await countOf('enrolment')).toBe(counts.person);
    expect(counts.reading).toBeGreaterThan(100);
  });
  it('keeps people’s roles, in its one course', async () => {
    expect((await personById(db, 'D1'))?.roles).toEqual({ 'course-1': ['director'] });
    expect((await personById(db, 'H01'))?.roles).toEqual({ 'course-1': ['student'] });
  });
  it('an attempt with an instructor’s word, a comment, a gauge and a pin is as it was', async () => {
    const ines = await personById(db, 'I2');
    const view = ines && (await benchView(db, 1, ines));
    const axial = view?.score.criteria.find((c) => c.id === 'axial');
    expect(axial).toMatchObject({ level: 2, reason: 'less so', comment: 'Look at the distal wall.' });
    expect(axial?.pins).toHaveLength(1);
    const targets = view?.score.criteria.flatMap((c) => c.targets) ?? [];
    expect(targets.find((t) => t.zone === 'central groove')?.hand).toMatchObject({ method: 'gauge', lo: 1, hi: 1.5 });
    expect(view?.grades.map((g) => g.version)).toEqual([1, 2]);
  });
  it('the student sees the figure that was released, and the trail has it', async () => {
    const view = await releasedView(db, 1);
    // Version 2 was the newest at the time and had been shown since: it is what was released.
    expect(view?.score.total).toBe(97);
    const trail = await trailView(db, 'H01', ['course-1'], true);
    expect(trail?.attempts.length).toBeGreaterThanOrEqual(2);
    expect(trail?.attempts.find((a) => a.attempt_id === 1)).toMatchObject({ total: 97 });
  });
  it('is recorded by the first entry of its chain', async () => {
    const { faults, entries } = await verify(db, auditKey(folder), readLog(folder));
    expect([faults, entries]).toEqual([[], 1]);
  });
  it('a newer data folder is refused by older code', async () => {
    await db.run(sql`insert into migration (name, sha256) values ('9999-of-tomorrow.sql', 'x')`);
    await expect(migrate(db, 'src/migrations')).rejects.toThrow(/written by a newer version/);
    await db.run(sql`delete from migration where name like '9999%'`);
  });
});
