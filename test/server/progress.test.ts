import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { errorCurves } from '#core/progress/error-curve.ts';
import { BINS } from '#core/progress/habit.ts';
import type { Reading } from '#core/result/reading.ts';
import { sql } from '#server/database/port.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { cohortView } from '#server/progress/cohort.ts';
import { fillLines } from '#server/progress/lines.ts';
import { progressView } from '#server/progress/progress.ts';
import { remembered } from '#server/progress/remembered.ts';
import { assess } from '#server/student/assess.ts';
import { openSchool, PEOPLE, RUBRIC, type School, SOUND } from '../helpers/school.ts';

const { maren, ines, greta, hugo } = PEOPLE;
const Count = v.object({ n: v.number() });
let school: School;
const count = async (table: 'graded_line' | 'graded_error' | 'graded_curve') =>
  (await school.app.db.one(Count, { text: `select count(*)::int as n from ${table}`, parameters: [] })).n;

async function signed(student: typeof greta | typeof hugo, width: number, step?: string): Promise<number> {
  const attempt = await school.measured(student, [{ ...SOUND[0], value: width }, ...SOUND.slice(1)], step);
  const seen = (await gradedOf(school.app.db, (await attemptById(school.app.db, attempt)) as never, 1)).seen;
  const done = await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen });
  expect(done.status).toBe(200);
  return attempt;
}

beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

describe('a signed grade', () => {
  let attempt: number;
  it('leaves its lines, its critical errors and what lay outside its bands', async () => {
    attempt = await signed(greta, 0.1);
    expect([await count('graded_line'), await count('graded_error')]).toEqual([RUBRIC.criteria.length, RUBRIC.critical.length]);
  });
  it('whose lines are lost gets them again from its record', async () => {
    await school.app.db.run(sql`delete from graded_line`);
    await fillLines(school.app.db);
    expect(await count('graded_line')).toBe(RUBRIC.criteria.length);
  });
  it('shows in its student’s progress to graders, to the student once it is released, to nobody else', async () => {
    const staff = await progressView(school.app.db, greta.id, ['c1'], false);
    expect(staff.attempts).toBe(1);
    const width = staff.skills.find((s) => s.key === 'margin.width');
    expect(width?.points).toMatchObject([{ attempt, value: 0.1, lo: 0.4, hi: 0.8, level: 0, tooth: '16' }]);
    expect(width?.skill.levels).toEqual({ given: null, there: 1, least: 5 });
    expect((await progressView(school.app.db, greta.id, ['c1'], true)).attempts).toBe(0);
    expect((await progressView(school.app.db, hugo.id, ['c1'], false)).attempts).toBe(0);
    expect((await progressView(school.app.db, greta.id, ['c2'], false)).attempts).toBe(0);
    await school.call('/api/attempts/[id]/release', ines, { id: String(attempt) }, { version: 1 });
    // The result waits until its student has judged the work, or would rather not.
    expect((await progressView(school.app.db, greta.id, ['c1'], true)).attempts).toBe(0);
    await assess(school.app, greta, attempt, { lines: [], minutes: null });
    expect((await progressView(school.app.db, greta.id, ['c1'], true)).attempts).toBe(1);
  });
  it('costs what is to be practised, with a drill that fits and a day', async () => {
    const { practice } = await progressView(school.app.db, greta.id, ['c1'], false);
    // Margin width: a weight of 1 in 4, all of its 25 points lost; chance (1 + 1) ÷ (1 + 2), learnability of a finish line 0.7.
    expect(practice[0]).toMatchObject({ id: 'margin.width', times: 1, of: 1, on: '2026-10-21' });
    expect(practice[0].gain).toBeCloseTo(25 * (2 / 3) * 0.7, 6);
    expect(practice[0].drill?.about).toBe('margin.width');
  });
});

describe('a cohort', () => {
  const call = (who: typeof maren | typeof ines | typeof greta, what: 'limits' | 'concerns', payload: unknown) =>
    school.call(`/api/courses/[id]/${what}`, who, { id: 'c1' }, payload) as unknown as Promise<{
      status: number;
      answer: { message: string };
    }>;
  it('has every student with the level of the newest attempt, and what decided each criterion of an exercise', async () => {
    const view = await cohortView(school.app.db, 'c1', { exercise: 'crown-16', grader: null });
    const row = view.rows.find((r) => r.student === greta.id);
    expect(row?.cells.find((c) => c.skill === 'margin.width')).toMatchObject({ last: 0, attempts: 1, isMastered: false });
    expect(view.rows.find((r) => r.student === hugo.id)?.cells).toEqual([]);
    expect(view.spread.find((s) => s.line === 'width')).toMatchObject({ values: [0.1], lo: 0.4, hi: 0.8 });
    expect([view.items, view.alpha, ...view.drift.map((d) => d.chart)]).toEqual([null, null, null, null]);
    // Everybody's cells are there for whoever signed them, none for another grader.
    const by = (grader: string) => cohortView(school.app.db, 'c1', { exercise: 'crown-16', grader });
    expect((await by(view.graders[0].id)).rows.some((r) => r.cells.length > 0)).toBe(true);
    expect((await by('nobody')).rows.some((r) => r.cells.length > 0)).toBe(false);
  });
  it('is told anew once another grade is signed', async () => {
    await signed(hugo, 0.6);
    const view = await cohortView(school.app.db, 'c1', { exercise: null, grader: null });
    expect(view.rows.find((r) => r.student === hugo.id)?.cells.find((c) => c.skill === 'margin.width')).toMatchObject({ last: 3 });
  });
  it('a word is put aside with a note, by graders of the course, about its students', async () => {
    const c = { student: hugo.id, what: 'absent', about: '', attempt: null, note: 'Was ill; makes up on Friday.' };
    expect((await call(greta, 'concerns', c)).status).toBe(403);
    expect((await call(ines, 'concerns', { ...c, note: ' ' })).status).toBe(400);
    expect((await call(ines, 'concerns', c)).status).toBe(200);
    const row = await school.app.db.one(
      v.object({ n: v.number() }),
      sql`select count(*)::int as n from concern_note where student_id = ${hugo.id}`,
    );
    expect(row.n).toBe(1);
    // Somebody who is no student of the course is nobody's concern here.
    await call(ines, 'concerns', { ...c, student: ines.id });
    expect((await school.app.db.one(v.object({ n: v.number() }), sql`select count(*)::int as n from concern_note`)).n).toBe(1);
  });
  it('sets by which failure rates mastery is told; two that lie too near are refused', async () => {
    expect((await call(ines, 'limits', { acceptable: 0.05, unacceptable: 0.2 })).status).toBe(403);
    expect((await call(maren, 'limits', { acceptable: 0.2, unacceptable: 0.22 })).answer.message).toMatch(/5 % or more/);
    expect((await call(maren, 'limits', { acceptable: 0.05, unacceptable: 0.2 })).status).toBe(200);
    const { limits } = await progressView(school.app.db, greta.id, ['c1'], false);
    expect([limits.p0, limits.p1]).toEqual([0.05, 0.2]);
    expect(limits.chanceFailing).toBeLessThanOrEqual(0.05);
  });
});

describe('what is remembered of a course', () => {
  const later = <T>() => {
    let give: (v: T) => void = () => undefined;
    const promise = new Promise<T>((r) => {
      give = r;
    });
    return { promise, give };
  };
  const another = () => signed(hugo, 0.6);
  it('is made once until a grade is signed, even for two who ask at once', async () => {
    let made = 0;
    const ask = () => remembered(school.app.db, 'once', async () => ++made);
    expect(await Promise.all([ask(), ask()])).toEqual([1, 1]);
    expect(await ask()).toBe(1);
    await another();
    expect(await ask()).toBe(2);
  });
  it('may be given as it was while it is made anew, but never before it was there', async () => {
    const first = later<string>();
    const one = remembered(school.app.db, 'old', () => first.promise, true);
    await another();
    // The first is still being made: the second one waits for its own.
    const two = remembered(school.app.db, 'old', async () => 'second', true);
    expect(await two).toBe('second');
    first.give('first');
    expect(await one).toBe('first');
    await another();
    expect(await remembered(school.app.db, 'old', async () => 'third', true)).toBe('second');
    expect(await remembered(school.app.db, 'old', async () => 'never', true)).toBe('third');
  });
  it('what failed is tried again', async () => {
    await expect(remembered(school.app.db, 'bad', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await remembered(school.app.db, 'bad', async () => 'yes')).toBe('yes');
  });
});

describe('what lay outside round the tooth', () => {
  const rubric = structuredClone(RUBRIC);
  const reading = (zone: string, value: number): Reading =>
    ({ name: 'margin.width', zone, stat: 'median', value, U: 0.05, unit: 'mm' }) as unknown as Reading;
  it('is the distance from the band along a curve, by bins of 5°', () => {
    const curve = Array.from({ length: 180 }, (_, i) => [2 * i, i < 90 ? 0.3 : 0.9]);
    const [c] = errorCurves(rubric, [reading('facial', 0.6)], { 'margin.width': curve });
    expect(c.bins).toHaveLength(BINS);
    expect([c.bins[0], c.bins[35], c.bins[36], c.bins[71]].map((b) => Math.round(1e6 * (b ?? 9)) / 1e6)).toEqual([-0.1, -0.1, 0.1, 0.1]);
  });
  it('or of readings by sides, each over its own stretch; too few of them make no curve', () => {
    const targets = ['facial', 'mesial', 'distal'].map((zone) => ({ ...rubric.criteria[0].targets[0], zone }));
    const sides = { ...rubric, criteria: [{ ...rubric.criteria[0], targets }] } as typeof rubric;
    const [c] = errorCurves(sides, [reading('facial', 0.6), reading('mesial', 0.2), reading('distal', 1)], {});
    // Facial from -45° to 45°, mesial to 135°, distal from 225° to 315°; nothing was asked of the lingual side.
    expect([c.bins[0], Math.round(1000 * (c.bins[18] ?? 9)), Math.round(1000 * (c.bins[54] ?? 9)), c.bins[36]]).toEqual([
      0,
      -200,
      200,
      null,
    ]);
    expect(errorCurves(sides, [reading('facial', 0.6)], {})).toEqual([]);
  });
});
