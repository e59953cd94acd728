import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { SignInThrottle } from '#server/account/throttle.ts';
import type { App } from '#server/app.ts';
import { Records } from '#server/audit/records.ts';
import { migrate } from '#server/database/migrate.ts';
import { type Database, sql } from '#server/database/port.ts';
import { seedSchool } from '#server/demo/demo.ts';
import { cohortFile, seedPast } from '#server/demo/past.ts';
import { gradesOf } from '#server/grading/rows.ts';
import { Pulse } from '#server/pulse.ts';
import { FileStore } from '#server/scans/files.ts';
import { trayOf } from '#server/view/tray.ts';
import { COURSE, EXERCISES } from '../../src/seed/cast.ts';
import { pastWork } from '../../src/seed/cohort.ts';
import type { CohortFile } from '../../src/seed/cohort-file.ts';
import { memoryDatabase } from '../helpers/school.ts';

const cohort = cohortFile('.') as CohortFile;
/** The first few of a crown, a cavity and work that nobody scans; the very first is graded twice and settled. */
const some = (() => {
  const all = pastWork();
  const of = (exercise: string, n: number) => all.filter((w) => w.exercise === exercise).slice(0, n);
  return [...of('crown-16', 3), ...of('class1-37', 2), ...of('preformed-84', 2)];
})();

let db: Database;
let app: App;
const folder = mkdtempSync(path.join(tmpdir(), 'veritor-past-'));
beforeAll(async () => {
  db = await memoryDatabase();
  await migrate(db, 'src/migrations');
  const pulse = new Pulse();
  app = {
    db,
    records: await Records.open(db, folder, () => pulse.bump()),
    files: new FileStore(path.join(folder, 'files')),
    children: { limits: FILE_LIMITS, run: () => Promise.reject(new Error('no processes here')) },
    jobs: { add: () => undefined, waiting: 0 } as never,
    scanner: { onTheWay: () => 0, start: async () => null },
    redraw: null,
    throttle: new SignInThrottle(),
    pulse,
    dataFolder: folder,
    standardsFolder: 'data/standards',
  };
  await seedSchool(app, folder, process.cwd());
  await seedPast(app, cohort, some);
});
afterAll(async () => {
  await db.close();
  rmSync(folder, { recursive: true, force: true });
});

const N = v.object({ n: v.number() });
const count = async (text: ReturnType<typeof sql>): Promise<number> => (await db.one(N, text)).n;

describe('the weeks before, entered into an empty school', () => {
  it('has every exercise at once, before any of its files', async () => {
    expect(await count(sql`select count(*) as n from exercise`)).toBe(EXERCISES.length);
    expect(await count(sql`select count(*) as n from exercise where minutes is null or json_array_length(steps::json) = 0`)).toBe(0);
    expect(await count(sql`select count(*) as n from master where file_sha256 is not null`)).toBe(0);
  });
  it('are signed by their instructors with the dates of then, on the readings that were measured', async () => {
    const Row = v.object({ id: v.number(), exercise: v.string(), held_on: v.string() });
    const rows = await db.any(
      Row,
      sql`select a.id, t.exercise_id as exercise, t.held_on from attempt a join sitting t on t.id = a.sitting_id order by a.id`,
    );
    expect(rows).toHaveLength(some.length);
    for (const r of rows) {
      const grades = await gradesOf(db, r.id);
      expect(grades.length, r.exercise).toBeGreaterThan(0);
      const [first] = grades;
      const { signedAt, readings } = v.parse(v.object({ signedAt: v.string(), readings: v.array(v.unknown()) }), first.record);
      expect(signedAt.slice(0, 10)).toBe(r.held_on);
      expect(readings.length > 0).toBe(r.exercise !== 'preformed-84');
    }
  });
  it('are graded twice now and then, settled or not, and released where they may be', async () => {
    expect(await count(sql`select count(*) as n from marking where round = 2`)).toBe(1);
    expect(await count(sql`select count(*) as n from marking where round = 3`)).toBe(1);
    expect(await count(sql`select count(*) as n from release`)).toBeLessThanOrEqual(some.length);
    expect(await count(sql`select count(*) as n from judgement where made_at > '2026-11-22'`)).toBe(0);
  });
  it('stand in the Tray as they were signed, with nothing changed since', async () => {
    const director = { id: 'D1', name: 'Maren Holt', roles: { [COURSE.id]: ['director'] } } as const;
    const rows = await trayOf({ db, jobs: { progressOf: () => null } }, 'crown-16-w1', director, COURSE.id);
    expect(rows.map((r) => [r.changed, r.picture, r.grade_total !== null])).toEqual(rows.map(() => [false, null, true]));
    expect(rows).toHaveLength(3);
  });
  it('are entered once, however often the server starts', async () => {
    const before = await count(sql`select count(*) as n from grade`);
    await seedPast(app, cohort, some);
    expect(await count(sql`select count(*) as n from grade`)).toBe(before);
  });
});
