import { zipSync } from 'fflate';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Brought, FilePreview, ScoreView } from '#contract/views.ts';
import { COOKIE, signIn, signOut, whoIs } from '#server/access/sign-in.ts';
import { sql } from '#server/database/database.ts';
import { gradesOf } from '#server/records/attempts.ts';
import { benchView } from '#server/view/bench.ts';
import { trailView } from '#server/view/trail.ts';
import { stateOf, trayRows } from '#server/view/tray.ts';
import { POST as act, GET as see } from '../../src/pages/api/attempts/[id]/[what].ts';
import { POST as steer } from '../../src/pages/api/scans/[id]/[what].ts';
import { POST as open } from '../../src/pages/api/sittings/[id]/attempts.ts';
import { POST as preview } from '../../src/pages/api/sittings/[id]/preview.ts';
import { POST as scan } from '../../src/pages/api/sittings/[id]/scanner.ts';
import { POST as bring } from '../../src/pages/api/sittings/[id]/scans.ts';
import { GET as tray } from '../../src/pages/api/sittings/[id]/tray.ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

const { maren, ines, piet, greta, hugo } = PEOPLE;
let school: School;
beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

const step = (what: string, who: Parameters<School['call']>[1], attempt: number, payload: unknown = {}) =>
  school.call(act, who, { id: String(attempt), what }, payload) as Promise<{ status: number; answer: ScoreView & { message: string } }>;

const GOOD = [
  { name: 'margin.width', zone: 'facial', stat: 'median', value: 0.6 },
  { name: 'toc.mean', stat: 'mean', value: 9, U: 0.5 },
  { name: 'neighbour.mesial', stat: 'max', value: 0 },
];

describe('one attempt, from its readings to a released grade', () => {
  let attempt: number;
  beforeAll(async () => {
    attempt = await school.measured(greta, GOOD);
  });
  const bench = async () => (await benchView(school.app.db, attempt)) as NonNullable<Awaited<ReturnType<typeof benchView>>>;

  it('is scored from what was read', async () => {
    const { score } = await bench();
    expect(score.total).toBe(100);
    expect(score.criteria.map((c) => [c.id, c.level])).toEqual([
      ['width', 3],
      ['taper', 3],
    ]);
  });
  it('another level needs a reason, the same one does not', async () => {
    expect((await step('judge', ines, attempt, { criterion: 'width', level: 3 })).status).toBe(200);
    const refused = await step('judge', ines, attempt, { criterion: 'width', level: 1 });
    expect([refused.status, refused.answer.message]).toEqual([422, expect.stringContaining('why your level differs')]);
    const kept = await step('judge', ines, attempt, { criterion: 'width', level: 1, reason: 'stepped' });
    // Half of a quarter of the weight is gone.
    expect(kept.answer.total).toBe(88);
    expect((await bench()).score.criteria[0]).toMatchObject({ level: 1, computed: 3 });
  });
  it('a comment stays when the level changes after it', async () => {
    await step('comment', ines, attempt, { criterion: 'width', comment: '  Look at the mesiofacial.  ' });
    await step('judge', ines, attempt, { criterion: 'width', level: 2, reason: 'a little' });
    expect((await bench()).score.criteria[0].comment).toBe('Look at the mesiofacial.');
  });
  it('an interval by hand counts in place of the scan, and goes when it is taken back', async () => {
    const gauge = { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 18, hi: 22 };
    const put = await step('hand', ines, attempt, gauge);
    const taper = put.answer.criteria[1];
    expect(taper.targets[0]).toMatchObject({ value: 20, hand: { method: 'eye', lo: 18, hi: 22 }, scanned: { value: 9, U: 0.5 } });
    const back = await step('hand', ines, attempt, { ...gauge, lo: null, hi: null });
    expect(back.answer.criteria[1].targets[0]).toMatchObject({ value: 9, hand: null });
  });
  it('a critical error may be read by hand too', async () => {
    const seen = await step('hand', ines, attempt, {
      reading: 'neighbour.mesial',
      zone: null,
      stat: 'max',
      method: 'eye',
      lo: 0.3,
      hi: 0.5,
    });
    expect(seen.answer.critical[0]).toMatchObject({ made: true, hand: { lo: 0.3, hi: 0.5 }, allowed: 0.2 });
    expect(seen.answer.passed).toBe(false);
    const waived = await step('judge', ines, attempt, { criterion: 'neighbour', waived: true });
    expect(waived.status).toBe(422);
    await step('hand', ines, attempt, { reading: 'neighbour.mesial', zone: null, stat: 'max', method: 'eye', lo: null, hi: null });
  });
  it.each([
    ['a criterion that the rubric has not', 'judge', { criterion: 'colour', level: 1 }, 404],
    ['a level that does not exist', 'judge', { criterion: 'width', level: 7 }, 400],
    ['a comment on nothing', 'comment', { criterion: 'colour', comment: 'x' }, 404],
    [
      'a reading that the rubric does not ask for',
      'hand',
      { reading: 'margin.lip', zone: null, stat: 'max', method: 'eye', lo: 0, hi: 1 },
      404,
    ],
    ['an interval the wrong way round', 'hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 9, hi: 3 }, 422],
    ['a tool that is none', 'hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'hunch', lo: 1, hi: 3 }, 400],
    ['releasing before signing', 'release', {}, 409],
    ['a step that does not exist', 'frame', {}, 404],
  ])('%s is refused with a sentence', async (_, what, payload, status) => {
    const r = await step(what, ines, attempt, payload);
    expect(r.status).toBe(status);
    expect(r.answer.message).toMatch(/^[A-Za-z].*\.$/);
  });
  it('signing twice keeps both, each with its digest', async () => {
    await step('sign', ines, attempt);
    await step('judge', ines, attempt, { criterion: 'width', level: 3 });
    await step('sign', ines, attempt);
    const grades = await gradesOf(school.app.db, attempt);
    expect(grades.map((g) => [g.version, g.total])).toEqual([
      [1, 95],
      [2, 100],
    ]);
    expect(new Set(grades.map((g) => g.digest)).size).toBe(2);
  });
  it('the student sees nothing before it is released, and then only the own', async () => {
    const look = (who: typeof greta | typeof hugo) => school.call(see, who, { id: String(attempt), what: 'picture' });
    expect((await look(greta)).status).toBe(404);
    expect((await trailView(school.app.db, greta.id, true))?.attempts).toHaveLength(0);
    expect((await step('release', ines, attempt)).status).toBe(200);
    expect((await look(greta)).status).toBe(200);
    expect((await look(hugo)).status).toBe(404);
    const trail = await trailView(school.app.db, greta.id, true);
    expect(trail?.attempts.map((a) => [a.version, a.total])).toEqual([[2, 100]]);
  });
  it('the tray says signed once it is, and released after', async () => {
    const row = (await trayRows(school.app.db, 'w1')).find((r) => r.attempt_id === attempt);
    expect(row && stateOf(row)).toBe('released');
    expect(row?.grade_total).toBe(100);
  });
});

describe('an attempt with gaps', () => {
  it('cannot be signed while no reading decides a criterion', async () => {
    const attempt = await school.measured(hugo, [GOOD[0], { name: 'toc.mean', stat: 'mean', value: null }]);
    const r = await step('sign', ines, attempt);
    expect([r.status, r.answer.message]).toEqual([409, expect.stringContaining('Convergence')]);
    await step('judge', ines, attempt, { criterion: 'taper', level: 2 });
    expect((await step('sign', ines, attempt)).status).toBe(200);
  });
  it('opened without a scan it is found again, not made twice', async () => {
    const first = await school.call(open, ines, { id: 'w2' }, { student: hugo.id });
    const again = await school.call(open, ines, { id: 'w2' }, { student: hugo.id });
    expect(first).toEqual(again);
    const rows = await trayRows(school.app.db, 'w2');
    expect(rows.map((r) => [r.student_id, r.state, stateOf(r)])).toEqual([['H08', 'no-scan', 'no-scan']]);
  });
  it.each([
    ['a sitting', { id: 'w9' }, { student: 'H08' }],
    ['a student', { id: 'w2' }, { student: 'H99' }],
    ['an instructor as a student', { id: 'w2' }, { student: 'I2' }],
  ])('is not opened for %s that is not there', async (_, params, payload) =>
    expect((await school.call(open, ines, params, payload)).status).toBe(404),
  );
});

describe('a scan taken on the way', () => {
  it('is shown with what it leaves to cut, and does not count for the grade', async () => {
    const ivo = { id: 'H35', role: 'student', name: 'Ivo Kral' } as const;
    await school.app.db.run(
      sql`insert into person (id, role, name, sign_in_name, password_hash, bench) values (${ivo.id}, 'student', ${ivo.name}, 'ivo', 'x', null)`,
    );
    const width = { name: 'margin.width', zone: 'facial', stat: 'median', value: 0.2 };
    const attempt = await school.measured(ivo, [width], 'axial');
    const row = () => trayRows(school.app.db, 'w1').then((rows) => rows.find((r) => r.attempt_id === attempt));
    expect([(await row())?.step, (await row())?.total, stateOf((await row()) as never)]).toEqual(['axial', null, 'stage']);
    const view = await benchView(school.app.db, attempt);
    expect(view?.stages.map((s) => [s.step, s.lines[0].reading, s.lines[0].stands])).toEqual([['axial', 'margin.width', 'cut-on']]);
    expect(view?.score.total).toBeNull();
    // The picture is there all the same.
    expect(view?.measurement).not.toBeNull();
    // Once the finished work comes, it is what is graded; the step stays to be looked at.
    await school.measured(ivo, GOOD);
    expect([(await row())?.step, (await row())?.total]).toEqual(['final', 100]);
    expect((await benchView(school.app.db, attempt))?.stages).toHaveLength(1);
  });
});

describe('who may do what', () => {
  let attempt: number;
  beforeAll(async () => {
    attempt = await school.measured(greta, GOOD);
  });
  it.each([
    ['signed out', null, 401],
    ['a student, on the own attempt', greta, 404],
    ['a student, on another’s', hugo, 404],
    ['an assistant', piet, 403],
    ['an instructor', ines, 200],
    ['the director', maren, 200],
  ])('%s judging', async (_, who, status) =>
    expect((await step('judge', who, attempt, { criterion: 'taper', level: 3 })).status).toBe(status),
  );
  it('students do not see the tray, assistants do', async () => {
    expect((await school.call(tray, greta, { id: 'w1' })).status).toBe(403);
    expect((await school.call(tray, piet, { id: 'w1' })).status).toBe(200);
  });
  it('assistants see the small pictures of the tray, and no more of an attempt', async () => {
    const look = async (what: string) => (await school.call(see, piet, { id: String(attempt), what })).status;
    expect([await look('picture'), await look('display'), await look('profiles')]).toEqual([200, 403, 403]);
  });
  it('a request from another site is turned away', async () => {
    const r = await school.call(act, ines, { id: String(attempt), what: 'sign' }, {}, { origin: 'http://elsewhere.test' });
    expect(r.status).toBe(403);
  });
  it('an attempt that is not there is not there for anyone', async () => {
    expect((await step('sign', ines, 9999)).status).toBe(404);
    expect((await school.call(see, ines, { id: 'x', what: 'picture' })).status).toBe(404);
  });
});

describe('signing in', () => {
  it('gives a token for the right password, and nobody for a wrong one', async () => {
    const done = await signIn(school.app.db, ' Ines ', 'harbour-lane');
    expect(done?.person).toEqual(ines);
    expect(await whoIs(school.app.db, done?.token as string)).toEqual(ines);
    expect(await signIn(school.app.db, 'ines', 'harbour')).toBeNull();
    expect(await signIn(school.app.db, 'nobody', 'harbour-lane')).toBeNull();
    await signOut(school.app.db, done?.token as string);
    expect(await whoIs(school.app.db, done?.token as string)).toBeNull();
    expect(COOKIE).toBe('veritor');
  });
});

describe('scans brought into a tray', () => {
  const send = async (...files: [string, string | Uint8Array][]) => {
    const form = new FormData();
    for (const [name, content] of files) form.append('scan', new File([content as BlobPart], name));
    return (await school.call(bring, piet, { id: 'w2' }, form)) as { status: number; answer: { files: Brought[]; message: string } };
  };
  it('find their student and wait to be measured; the same content is not taken twice', async () => {
    const before = school.queued.length;
    const { answer } = await send(['B1-07_crown.stl', 'one'], ['H07 again.stl', 'one'], ['unknown.stl', 'two']);
    expect(answer.files.map((f) => [f.outcome, f.student])).toEqual([
      ['matched', 'Greta Pohl'],
      ['duplicate', 'Greta Pohl'],
      ['unmatched', null],
    ]);
    expect(school.queued.length).toBe(before + 1);
  });
  it('a second scan of an attempt is its next version', async () => {
    await send(['H07.stl', 'three']);
    const rows = (await trayRows(school.app.db, 'w2')).filter((r) => r.student_id === 'H07');
    expect(rows.map((r) => r.version)).toEqual([2]);
  });
  it('say beforehand whose they would be, and as which version', async () => {
    const names = ['H07.stl', 'H07 second.stl', 'H07_axial.stl', 'B1-08.stl', 'unknown.stl'];
    const { answer } = (await school.call(preview, piet, { id: 'w2' }, { names })) as { answer: { files: FilePreview[] } };
    expect(answer.files.map((f) => [f.student, f.by, f.step, f.version])).toEqual([
      ['H07', 'number', 'final', 3],
      ['H07', 'number', 'final', 4],
      ['H07', 'number', 'axial', 1],
      ['H08', 'bench', 'final', 1],
      [null, null, 'final', 1],
    ]);
    expect((await school.call(preview, greta, { id: 'w2' }, { names })).status).toBe(403);
  });
  it('go to whom one chose, whatever their name says', async () => {
    const form = new FormData();
    form.append('scan', new File(['chosen'], 'anything.stl'));
    form.append('student', 'H08');
    const { answer } = (await school.call(bring, piet, { id: 'w2' }, form)) as { answer: { files: Brought[] } };
    expect(answer.files[0]).toMatchObject({ outcome: 'matched', student: 'Hugo Lind' });
  });
  it('a zip brings what is in it', async () => {
    const { answer } = await send(['all.zip', zipSync({ 'folder/H08_a.stl': new Uint8Array([1, 2, 3]) })]);
    expect(answer.files.map((f) => [f.fileName, f.outcome])).toEqual([['H08_a.stl', 'matched']]);
  });
  it('a zip that is none is refused by name; nothing at all is, too', async () => {
    const broken = await send(['bad.zip', new Uint8Array([0x50, 0x4b, 9, 9, 9])]);
    expect(broken.answer.files[0]).toMatchObject({ outcome: 'refused', message: expect.stringContaining('bad.zip') });
    expect((await send()).status).toBe(400);
  });
  it('an unmatched one is given to a student by hand', async () => {
    const row = (await trayRows(school.app.db, 'w2')).find((r) => r.attempt_id === null);
    expect(row && stateOf(row)).toBe('unmatched');
    const before = school.queued.length;
    await school.call(steer, piet, { id: String(row?.scan_id), what: 'assign' }, { student: hugo.id });
    expect(school.queued.length).toBe(before + 1);
    expect((await trayRows(school.app.db, 'w2')).filter((r) => r.attempt_id === null)).toHaveLength(0);
  });
  it('three points in a line do not lay it on', async () => {
    const point = (x: number) => ({ scan: [x, 0, 0], master: [x, 0, 0] });
    const r = await school.call(steer, piet, { id: '1', what: 'pose' }, { pairs: [point(0), point(1), point(2)] });
    expect(r.status).toBe(422);
  });
  it('the simulated scanner is not there for teeth it cannot cut', async () =>
    expect((await school.call(scan, piet, { id: 'w2' }, { student: hugo.id })).status).toBe(404));
  it('everything done is written down', async () => {
    const done = await school.app.db.any(v.object({ action: v.string() }), sql`select distinct action from audit order by action`);
    expect(done.map((d) => d.action)).toEqual(
      expect.arrayContaining(['attempt.hand', 'attempt.judge', 'attempt.open', 'attempt.release', 'scan.bring']),
    );
  });
});
