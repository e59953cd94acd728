import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from '#server/database/port.ts';
import { benchView } from '#server/view/bench.ts';
import { stateOf, trayOf } from '#server/view/tray.ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

const { ines, piet, greta, hugo } = PEOPLE;
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

const totals = async () => Object.fromEntries((await trayOf(school.app, 'w1', ines, 'c1')).map((r) => [r.student_id, r.total]));
const tell = (what: string, payload: unknown) => school.call(`/api/attempts/[id]/${what}`, ines, { id: String(attempt) }, payload);

/** The tray caches scores: each piece of evidence must change its own attempt's score at once, and no other. */
describe('a tray that was asked for before', () => {
  it('is the same when nothing happened', async () => {
    const first = await trayOf(school.app, 'w1', ines, 'c1');
    expect(await trayOf(school.app, 'w1', ines, 'c1')).toEqual(first);
    expect(await totals()).toEqual({ H07: 100, H08: 100 });
  });
  it('follows an instructor’s level, and its withdrawal', async () => {
    await tell('judge', { line: 'width', level: 1, reason: 'stepped' });
    expect(await totals()).toEqual({ H07: 88, H08: 100 });
    await tell('judge', { line: 'width', level: 3, reason: null });
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
    await school.measured(hugo, read(0.6));
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

describe('the score of a tray', () => {
  it('carries the same digest for signing as the Bench', async () => {
    const row = (await trayOf(school.app, 'w1', ines, 'c1')).find((r) => r.attempt_id === attempt);
    expect(row?.seen).toBe((await benchView(school.app.db, attempt, ines))?.score.seen);
  });
});

describe('a scan taken on the way', () => {
  it('is shown with what remains to be cut, and does not count for the grade', async () => {
    const ivo = { id: 'H35', name: 'Ivo Kral', roles: { c1: ['student'] } } as const;
    await school.app.db.run(sql`insert into person (id, name, sign_in_name, password_hash) values (${ivo.id}, ${ivo.name}, 'ivo', 'x')`);
    await school.app.db.run(sql`insert into enrolment (course_id, person_id, role) values ('c1', ${ivo.id}, 'student')`);
    await school.app.db.run(sql`update exercise set rubric_version_id = 1`);
    const step = await school.measured(ivo, [{ name: 'margin.width', zone: 'facial', stat: 'median', value: 0.2 }], 'axial');
    const row = async () => (await trayOf(school.app, 'w1', ines, 'c1')).find((r) => r.attempt_id === step);
    expect([(await row())?.step, (await row())?.total, stateOf((await row()) as never)]).toEqual(['axial', null, 'stage']);
    const view = await benchView(school.app.db, step, ines);
    expect(view?.stages.map((s) => [s.step, s.lines[0].reading, s.lines[0].stands])).toEqual([['axial', 'margin.width', 'cut-more']]);
    expect(view?.score.total).toBeNull();
    // The picture is there all the same.
    expect(view?.measurement).not.toBeNull();
    // Once the finished work comes, it is what is graded; the step stays to be looked at.
    await school.measured(ivo, read(0.6));
    expect([(await row())?.step, (await row())?.total]).toEqual(['final', 100]);
    expect((await benchView(school.app.db, step, ines))?.stages).toHaveLength(1);
  });
});

describe('an assistant’s tray', () => {
  it('who sees no scores sees that the work is measured, and not whether anything about it is to be checked', async () => {
    const sure = await school.measured(greta, read(0.6));
    const unsure = await school.measured(hugo, [{ name: 'margin.width', zone: 'facial', stat: 'median', value: null }]);
    const words = async (who: typeof piet) =>
      Object.fromEntries(
        (await trayOf(school.app, 'w1', who, 'c1')).flatMap((r) => (r.attempt_id === null ? [] : [[r.attempt_id, r.word]])),
      );
    expect(await words(ines)).toMatchObject({ [sure]: 'ready', [unsure]: 'eye' });
    expect(await words(piet)).toMatchObject({ [sure]: 'measured', [unsure]: 'measured' });
  });
});
