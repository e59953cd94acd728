import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from '#server/database/database.ts';
import { trayRows } from '#server/view/tray.ts';
import { POST as act } from '../../src/pages/api/attempts/[id]/[what].ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

const { ines, greta, hugo } = PEOPLE;
const read = (width: number) => [
  { name: 'margin.width', zone: 'facial', stat: 'median', value: width },
  { name: 'toc.mean', stat: 'mean', value: 9, U: 0.5 },
  { name: 'neighbour.mesial', stat: 'max', value: 0 },
];
let school: School;
let attempt: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, read(0.6));
  await school.measured(hugo, read(0.6));
});
afterAll(() => school.close());

const totals = async () => Object.fromEntries((await trayRows(school.app.db, 'w1')).map((r) => [r.student_id, r.total]));
const tell = (what: string, payload: unknown) => school.call(act, ines, { id: String(attempt), what }, payload);

/** The tray keeps what it worked out: whatever an attempt is scored from must still change it at once, and nobody else's. */
describe('a tray that was asked for before', () => {
  it('is the same when nothing happened', async () => {
    const first = await trayRows(school.app.db, 'w1');
    expect(await trayRows(school.app.db, 'w1')).toEqual(first);
    expect(await totals()).toEqual({ H07: 100, H08: 100 });
  });
  it('follows a level that an instructor gave, and its taking back', async () => {
    await tell('judge', { criterion: 'width', level: 1, reason: 'stepped' });
    expect(await totals()).toEqual({ H07: 88, H08: 100 });
    await tell('judge', { criterion: 'width', level: 3, reason: null });
    expect(await totals()).toEqual({ H07: 100, H08: 100 });
  });
  it('follows a reading by hand', async () => {
    await tell('hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 30, hi: 31 });
    const now = await totals();
    // Three quarters of the weight hang on the convergence.
    expect(now).toEqual({ H07: 25, H08: 100 });
    await tell('hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: null, hi: null });
  });
  it('follows another scan of the same attempt', async () => {
    await school.measured(hugo, read(1.6));
    const now = await totals();
    expect(now.H08).toBeLessThan(100);
  });
  it('follows a scan that was measured again', async () => {
    await school.app.db.run(
      sql`update reading set value = 0.6 where name = 'margin.width' and measurement_id in (select m.id from measurement m join scan s on s.id = m.scan_id join attempt a on a.id = s.attempt_id where a.student_id = 'H08')`,
    );
    // Readings change only with a measurement: until it says so they are taken as they were.
    expect((await totals()).H08).toBeLessThan(100);
    await school.app.db.run(sql`update measurement set measured_at = now() + interval '1 minute'`);
    expect((await totals()).H08).toBe(100);
  });
  it('follows a new version of the rubric', async () => {
    await school.app.db.run(
      sql`insert into rubric_version (rubric_id, version, body) select rubric_id, 2, jsonb_set(body, '{criteria,0,targets,0,band}', '{"lo": 0.7, "hi": 0.8}') from rubric_version where id = 1`,
    );
    await school.app.db.run(sql`update exercise set rubric_version_id = (select max(id) from rubric_version)`);
    expect((await totals()).H08).toBeLessThan(100);
  });
});
