import { appendFileSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GradeFile } from '#contract/grade.ts';
import { auditKey, readLog } from '#server/audit/log.ts';
import { verify } from '#server/audit/verify.ts';
import { sql } from '#server/database/port.ts';
import { gradesOf } from '#server/grading/rows.ts';
import { benchView } from '#server/view/bench.ts';
import { regrade } from '../../src/cli/records.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';
import { editAtRandom } from '../helpers/tamper.ts';

const { ines, greta, hugo } = PEOPLE;
let school: School;
let attempt: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
  await school.measured(hugo, SOUND);
  const act = (what: string, payload: unknown) => school.call(`/api/attempts/[id]/${what}`, ines, { id: String(attempt) }, payload);
  await act('judge', { line: 'width', level: 2, reason: 'a little rough' });
  await act('comment', { line: 'width', comment: 'Look again.' });
  await act('hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 7, hi: 10 });
  await act('pin', { line: 'width', point: [1, 2, 3], note: 'here' });
  await act('sign', { seen: (await benchView(school.app.db, attempt, ines))?.score.seen });
  await act('release', {});
});
afterAll(() => school.close());
const check = () => verify(school.app.db, auditKey(school.app.dataFolder), readLog(school.app.dataFolder));

/** EDITS=1000 for the figure in docs/reliability.md. */
const EDITS = Number(process.env.EDITS ?? 100);

describe('the audit chain', () => {
  it('finds no fault after honest acts', async () => {
    const { faults, entries, rows } = await check();
    expect(faults).toEqual([]);
    expect(entries).toBeGreaterThan(8);
    expect(rows).toBeGreaterThan(10);
  });
  it(`finds any change, insertion and deletion: ${EDITS} edits at random, each undone again`, async () => {
    const seeds = Array.from({ length: EDITS }, (_, i) => i + 1);
    const missed: string[] = [];
    for (const seed of seeds) {
      const edit = await editAtRandom(school.app.db, seed);
      if ((await check()).faults.length === 0) missed.push(edit.words);
      await edit.undo();
    }
    expect(missed).toEqual([]);
    expect((await check()).faults).toEqual([]);
  }, 600_000);
  it('finds that its newest entries were cut off, by the log outside of the database', async () => {
    const { db } = school.app;
    const last = await db.one(
      v.object({ id: v.number(), row: v.string() }),
      sql`select id, to_jsonb(a)::text as row from audit a order by id desc limit 1`,
    );
    await db.exec('alter table audit disable trigger all');
    await db.run(sql`delete from audit where id = ${last.id}`);
    expect((await check()).faults.join(' ')).toMatch(/the newest are gone/);
    await db.run(sql`insert into audit select * from jsonb_populate_record(null::audit, ${last.row}::jsonb)`);
    await db.exec('alter table audit enable trigger all');
    expect((await check()).faults).toEqual([]);
  });
  it('finds a log that was rewritten or is gone', async () => {
    const file = path.join(school.app.dataFolder, 'audit.log');
    const text = readFileSync(file, 'utf8');
    writeFileSync(file, text.replace(/[0-9a-f]{64}/, 'f'.repeat(64)));
    expect((await check()).faults).toHaveLength(1);
    writeFileSync(file, '');
    expect((await check()).faults.join(' ')).toMatch(/is gone/);
    writeFileSync(file, text);
    // A line that a power failure cut off is none, and the next start writes it again.
    appendFileSync(file, '99 abc');
    expect((await check()).faults).toEqual([]);
  });
  it('finds every entry false under another key', async () => {
    const { faults, entries } = await verify(school.app.db, new Uint8Array(32), readLog(school.app.dataFolder));
    expect(faults.length).toBeGreaterThanOrEqual(entries);
  });
});

describe('a signed record', () => {
  it('holds everything to compute it again, and gives the same', async () => {
    const [grade] = await gradesOf(school.app.db, attempt);
    expect(regrade(grade.record)).toEqual([]);
  });
  it('that was altered gives the difference', async () => {
    const [grade] = await gradesOf(school.app.db, attempt);
    const record = v.parse(GradeFile, structuredClone(grade.record));
    record.result.total = 99;
    expect(regrade(record)).toEqual([expect.stringMatching(/the total is \d+ and was 99/)]);
    const other = v.parse(GradeFile, structuredClone(grade.record));
    expect(
      (regrade({ ...other, readings: other.readings.map((r, i) => (i === 0 ? { ...r, value: 3 } : r)) }) as string[]).length,
    ).toBeGreaterThan(0);
  });
  it('of the version before cannot be computed again, and is not called the same', () =>
    expect(regrade({ format: 'veritor-grade/1', total: 80, criteria: [], critical: [] })).toBeNull());
});
