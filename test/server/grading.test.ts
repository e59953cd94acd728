import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ScoreView } from '#contract/views.ts';
import { sql } from '#server/database/port.ts';
import { gradesOf, releasedGrade } from '#server/grading/rows.ts';
import { trailView } from '#server/progress/trail.ts';
import { assess } from '#server/student/assess.ts';
import { benchView, releasedView } from '#server/view/bench.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const Count = v.object({ n: v.number() });
const { maren, ines, oke, piet, greta, hugo } = PEOPLE;
let school: School;
beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

type Answer = {
  status: number;
  answer: ScoreView & { message: string; version: number; digest: string; undecided: never; changed: string[] };
};
const step = (what: string, who: Parameters<School['call']>[1], attempt: number, payload: unknown = {}) =>
  school.call(`/api/attempts/[id]/${what}`, who, { id: String(attempt) }, payload) as Promise<Answer>;
const see = (what: string, who: Parameters<School['call']>[1], attempt: number) =>
  school.call(`/api/attempts/[id]/${what}`, who, { id: String(attempt) }) as Promise<{
    status: number;
    answer: { grades: { version: number; digest: string }[] };
  }>;
const bench = async (attempt: number, who = ines as Parameters<typeof benchView>[2]) => {
  const view = await benchView(school.app.db, attempt, who);
  if (!view) throw new Error('there is no such attempt');
  return view;
};
const sign = async (attempt: number, who = ines as Parameters<typeof benchView>[2]) =>
  step('sign', who, attempt, { seen: (await bench(attempt, who)).score.seen });

const HURT = [...SOUND.slice(0, 2), { name: 'neighbour.mesial', stat: 'max', value: 0.5 }];

describe('one attempt, from its readings to a released grade', () => {
  let attempt: number;
  beforeAll(async () => {
    attempt = await school.measured(greta, SOUND);
  });

  it('is scored from what was read', async () => {
    const { score } = await bench(attempt);
    expect(score.total).toBe(100);
    expect(score.criteria.map((c) => [c.id, c.level, c.decidedBy])).toEqual([
      ['width', 3, 'measurement'],
      ['taper', 3, 'measurement'],
    ]);
  });
  it('another level needs a reason, the same one does not', async () => {
    expect((await step('judge', ines, attempt, { line: 'width', level: 3 })).status).toBe(200);
    const refused = await step('judge', ines, attempt, { line: 'width', level: 1 });
    expect([refused.status, refused.answer.message]).toEqual([422, expect.stringContaining('why your level differs')]);
    const kept = await step('judge', ines, attempt, { line: 'width', level: 1, reason: 'stepped' });
    // Half of a quarter of the weight is gone.
    expect(kept.answer.total).toBe(88);
    expect((await bench(attempt)).score.criteria[0]).toMatchObject({ level: 1, computed: 3, overridden: true, decidedBy: 'person' });
  });
  it('a comment stays when the level changes after it', async () => {
    await step('comment', ines, attempt, { line: 'width', comment: '  Look at the mesiofacial.  ' });
    await step('judge', ines, attempt, { line: 'width', level: 2, reason: 'a little' });
    expect((await bench(attempt)).score.criteria[0].comment).toBe('Look at the mesiofacial.');
  });
  it('an interval by hand counts in place of the scan, and goes when it is taken back', async () => {
    const eye = { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 18, hi: 22 };
    const put = await step('hand', ines, attempt, eye);
    expect(put.answer.criteria[1].targets[0]).toMatchObject({
      value: 20,
      hand: { method: 'eye', lo: 18, hi: 22 },
      onlyByHand: false,
      scanned: { value: 9, U: 0.5 },
    });
    const back = await step('hand', ines, attempt, { ...eye, lo: null, hi: null });
    expect(back.answer.criteria[1].targets[0]).toMatchObject({ value: 9, hand: null });
  });
  it('a judgement is reopened when its evidence changes, and holds again when the evidence returns', async () => {
    await step('judge', ines, attempt, { line: 'taper', level: 3 });
    const eye = { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 10, hi: 14 };
    const put = await step('hand', ines, attempt, eye);
    expect(put.answer.criteria[1]).toMatchObject({ reopened: true, decidedBy: null, verdict: 'close' });
    expect(put.answer.undecided).toContain('taper');
    const back = await step('hand', ines, attempt, { ...eye, lo: null, hi: null });
    expect(back.answer.criteria[1]).toMatchObject({ reopened: false, decidedBy: 'person', level: 3 });
  });
  it('a critical error may be read by hand too', async () => {
    const where = { reading: 'neighbour.mesial', zone: null, stat: 'max', method: 'explorer' };
    const seen = await step('hand', ines, attempt, { ...where, lo: 0.3, hi: 0.5 });
    expect(seen.answer.critical[0]).toMatchObject({ made: true, hand: { lo: 0.3, hi: 0.5 }, allowed: 0.2 });
    expect([seen.answer.passed, seen.answer.failures]).toEqual([false, ['Neighbour damaged']]);
    expect((await step('judge', ines, attempt, { line: 'neighbour', made: false })).status).toBe(422);
    await step('hand', ines, attempt, { ...where, lo: null, hi: null });
  });
  it.each([
    ['a line that the rubric has not', 'judge', { line: 'colour', level: 1 }, 404],
    ['a level that does not exist', 'judge', { line: 'width', level: 7 }, 400],
    ['a level for a critical error', 'judge', { line: 'neighbour', level: 2 }, 422],
    ['a comment on nothing', 'comment', { line: 'colour', comment: 'x' }, 404],
    ['a reading that is not asked for', 'hand', { reading: 'margin.lip', zone: null, stat: 'max', method: 'eye', lo: 0, hi: 1 }, 404],
    ['an interval the wrong way round', 'hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'eye', lo: 9, hi: 3 }, 422],
    ['a tool that is none', 'hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'hunch', lo: 1, hi: 3 }, 400],
    ['a tool that cannot read it', 'hand', { reading: 'toc.mean', zone: null, stat: 'mean', method: 'gauge', lo: 1, hi: 3 }, 422],
    ['releasing before signing', 'release', {}, 409],
    ['signing what nobody saw', 'sign', { seen: 'a'.repeat(64) }, 409],
    ['signing without saying what was seen', 'sign', {}, 400],
  ])('%s is refused with a sentence', async (_, what, payload, status) => {
    const r = await step(what, ines, attempt, payload);
    expect(r.status).toBe(status);
    expect(r.answer.message).toMatch(/^[A-Za-z].*\.$/s);
  });
  it('signing twice keeps both, each with its digest', async () => {
    expect((await sign(attempt)).status).toBe(200);
    // An unchanged score may be signed again.
    expect((await sign(attempt)).status).toBe(200);
    const { answer } = await see('grades', ines, attempt);
    expect(answer.grades.map((g) => g.version)).toEqual([1, 2]);
    expect(new Set(answer.grades.map((g) => g.digest)).size).toBe(2);
  });
  it('a change since the score was shown refuses the signature and names the change', async () => {
    const { seen } = (await bench(attempt)).score;
    await step('judge', oke, attempt, { line: 'width', level: 0, reason: 'open' });
    const refused = await step('sign', ines, attempt, { seen });
    expect(refused.status).toBe(409);
    expect(refused.answer.message).toMatch(/has changed since it was shown.*Margin width/);
    expect(await gradesOf(school.app.db, attempt)).toHaveLength(2);
  });
  it('a signed grade cannot be changed or deleted in the database', async () => {
    await expect(school.app.db.run(sql`update grade set total = 100 where attempt_id = ${attempt}`)).rejects.toThrow(/kept as it is/);
    await expect(school.app.db.run(sql`delete from grade where attempt_id = ${attempt}`)).rejects.toThrow(/kept as it is/);
  });
});

describe('nothing passes because something is missing', () => {
  it('a critical error that was not read waits for a person, and the attempt cannot be signed', async () => {
    const attempt = await school.measured(hugo, [
      ...SOUND.slice(0, 2),
      { name: 'neighbour.mesial', stat: 'max', value: null, reason: 'not-seen' },
    ]);
    const { score } = await bench(attempt);
    expect(score).toMatchObject({ total: null, passed: null, undecided: ['neighbour'] });
    const refused = await sign(attempt);
    expect(refused.status).toBe(409);
    expect(refused.answer.undecided).toEqual([{ id: 'neighbour', title: 'Neighbour damaged' }]);
    await step('judge', ines, attempt, { none: 'critical' });
    expect((await sign(attempt)).status).toBe(200);
  });
});

describe('a signed grade rests on its own evidence', () => {
  let attempt: number;
  beforeAll(async () => {
    await school.close();
    school = await openSchool();
    attempt = await school.measured(greta, HURT);
    await sign(attempt);
    await step('release', ines, attempt);
  });
  it('a better scan measured later does not become the graded one', async () => {
    await school.measured(greta, SOUND);
    const view = await bench(attempt);
    expect(view.measurements.map((m) => m.isGraded)).toEqual([true, false]);
    expect(view.score).toMatchObject({ passed: false, failures: ['Neighbour damaged'] });
  });
  it('choosing the newer measurement is audited', async () => {
    const newer = (await bench(attempt)).measurements[1].id;
    expect((await step('measurement', ines, attempt, { measurement: newer })).status).toBe(200);
    expect((await bench(attempt)).score.total).toBe(100);
    const { n } = await school.app.db.one(
      Count,
      sql`select count(*) as n from audit where action = 'attempt.measurement' and person_id = 'I2'`,
    );
    expect(n).toBe(1);
  });
  it('the student keeps seeing the released version and its measurement', async () => {
    const view = await releasedView(school.app.db, attempt);
    expect(view?.score).toMatchObject({ total: 100, passed: false, failures: ['Neighbour damaged'] });
    expect(view?.score.critical[0]).toMatchObject({ made: true, value: 0.5 });
    const grade = await releasedGrade(school.app.db, attempt);
    expect(view?.measurement?.id).toBe(grade?.measurement_id);
  });
  it('signing again publishes nothing', async () => {
    // The trail opens with the student's own judgement, be it none.
    await assess(school.app, greta, attempt, { lines: [], minutes: null });
    await sign(attempt);
    expect((await releasedView(school.app.db, attempt))?.grades[0].version).toBe(1);
    expect((await trailView(school.app.db, greta.id, ['c1'], true))?.attempts.map((a) => [a.version, a.passed])).toEqual([[1, false]]);
    expect((await trailView(school.app.db, greta.id, ['c1'], false))?.attempts.map((a) => a.version)).toEqual([2]);
    await step('release', ines, attempt);
    expect((await releasedView(school.app.db, attempt))?.grades[0]).toMatchObject({ version: 2, passed: true });
  });
  it('a release is withdrawn', async () => {
    expect((await step('withdraw', ines, attempt)).status).toBe(200);
    expect(await releasedView(school.app.db, attempt)).toBeNull();
    expect((await see('grades', greta, attempt)).status).toBe(404);
  });
  it('measurements and readings cannot be changed in the database', async () => {
    await expect(school.app.db.run(sql`update reading set value = 0`)).rejects.toThrow(/kept as it is/);
    await expect(school.app.db.run(sql`delete from measurement`)).rejects.toThrow(/kept as it is/);
  });
  it('a scan that a grade rests on is not given to somebody else', async () => {
    const refused = (await school.call('/api/scans/[id]/assign', piet, { id: '1' }, { student: 'H08' })) as Answer;
    expect([refused.status, refused.answer.message]).toEqual([409, expect.stringContaining('signed grade rests on this scan')]);
  });
  it('a sitting is released as a whole, with the list of attempts left out', async () => {
    await school.measured(hugo, SOUND);
    const r = (await school.call('/api/sittings/[id]/release', ines, { id: 'w1' }, {})) as {
      answer: { released: number; left: unknown[] };
    };
    expect(r.answer).toMatchObject({ released: 1, left: [{ why: expect.stringContaining('Sign the attempt first') }] });
  });
});

describe('a second grader', () => {
  let attempt: number;
  beforeAll(async () => {
    await school.close();
    school = await openSchool();
    attempt = await school.measured(greta, SOUND);
    await step('judge', ines, attempt, { line: 'width', level: 1, reason: 'stepped' });
    await sign(attempt);
  });
  it('is somebody else than the first', async () => {
    expect((await step('rounds', maren, attempt, { round: 2, grader: 'I2' })).status).toBe(409);
    expect((await step('rounds', maren, attempt, { round: 2, grader: 'I3' })).status).toBe(200);
  });
  it('neither sees nor overwrites the first grader’s judgement', async () => {
    const view = await bench(attempt, oke);
    expect([view.round, view.score.total, view.grades]).toEqual([2, 100, []]);
    await step('judge', oke, attempt, { line: 'taper', level: 2, reason: 'steep' });
    expect((await bench(attempt, ines)).score).toMatchObject({ total: 88 });
  });
  it('a difference must be settled before release', async () => {
    expect((await step('release', maren, attempt)).answer.message).toContain('second grader has not signed');
    await sign(attempt, oke);
    expect((await step('release', maren, attempt)).answer.message).toContain('The two graders differ (88 and 85)');
    expect((await step('rounds', ines, attempt, { round: 3, grader: 'D1' })).status).toBe(403);
    await step('rounds', maren, attempt, { round: 3, grader: 'D1' });
    await sign(attempt, maren);
    expect((await step('release', maren, attempt)).status).toBe(200);
    expect((await releasedView(school.app.db, attempt))?.grades[0]).toMatchObject({ round: 3, total: 100 });
  });
});

describe('several attempts of a student in one sitting', () => {
  it('are opened on purpose and numbered', async () => {
    const open = (again: boolean) =>
      school.call('/api/sittings/[id]/attempts', ines, { id: 'w2' }, { student: 'H08', again }) as Promise<{ answer: { attempt: number } }>;
    const first = (await open(false)).answer.attempt;
    expect((await open(false)).answer.attempt).toBe(first);
    const second = (await open(true)).answer.attempt;
    expect(second).not.toBe(first);
    expect((await bench(second)).attempt.number).toBe(2);
  });
});
