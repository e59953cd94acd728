import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { errorCurves } from '#core/progress/error-curve.ts';
import { BINS } from '#core/progress/habit.ts';
import type { Reading } from '#core/result/reading.ts';
import { sql } from '#server/database/port.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { fillLines } from '#server/progress/lines.ts';
import { progressView } from '#server/progress/progress.ts';
import { openSchool, PEOPLE, RUBRIC, type School, SOUND } from '../helpers/school.ts';

const { ines, greta, hugo } = PEOPLE;
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
}, 60_000);
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
