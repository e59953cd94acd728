import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SelfForm, WorkView } from '#contract/work.ts';
import { sql } from '#server/database/port.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { ownConcerns } from '#server/progress/cohort.ts';
import { progressView } from '#server/progress/progress.ts';
import { ownDay, selfView, workView } from '#server/student/work.ts';
import { findingsOf, formOf, goodOf, marksOf, said, withLine } from '../../src/islands/work/state.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const { ines, greta, hugo, piet } = PEOPLE;
let school: School;
beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

const post = (what: 'self' | 'sign' | 'release', attempt: number, who: Parameters<School['call']>[1], body: unknown) =>
  school.call(`/api/attempts/[id]/${what}`, who, { id: String(attempt) }, body);
async function sign(attempt: number): Promise<void> {
  const seen = (await gradedOf(school.app.db, (await attemptById(school.app.db, attempt)) as never, 1)).seen;
  expect((await post('sign', attempt, ines, { seen })).status).toBe(200);
}
const release = (attempt: number) => post('release', attempt, ines, { version: 1 });
const view = async (attempt: number): Promise<WorkView> => (await workView(school.app.db, attempt)) as WorkView;
const own: SelfForm = { lines: [{ line: 'width', level: 3, figure: 0.5 }], minutes: 50 };

describe('a student’s own attempt', () => {
  let attempt: number;
  it('is asked about before anything is told: words for each line, no band, no score', async () => {
    attempt = await school.measured(greta, [{ ...SOUND[0], value: 0.1 }, ...SOUND.slice(1)]);
    const v = await view(attempt);
    expect([v.attempt.state, v.attempt.total, v.result, v.practice, v.report]).toEqual(['grading', null, null, [], null]);
    expect(v.questions.map((q) => [q.id, q.words.map((w) => w.level)])).toEqual([
      ['width', [3, 2, 1, 0]],
      ['taper', [3, 2, 1, 0]],
    ]);
    expect(JSON.stringify(v.questions)).not.toMatch(/"(lo|hi|band|value|verdict|points)"/);
  });
  it('may be judged again until the result is shown; lines that the exercise lacks are refused', async () => {
    expect((await post('self', attempt, greta, own)).status).toBe(200);
    expect((await post('self', attempt, greta, { ...own, minutes: 55 })).status).toBe(200);
    expect((await view(attempt)).own).toEqual({ ...own, minutes: 55 });
    expect((await post('self', attempt, greta, { lines: [{ line: 'nothing', level: 1, figure: null }], minutes: null })).status).toBe(422);
    expect((await post('self', attempt, greta, { ...own, minutes: 0 })).status).toBeGreaterThanOrEqual(400);
  });
  it('is nobody else’s to judge, and for another student it is not there', async () => {
    expect((await post('self', attempt, hugo, own)).status).toBe(404);
    for (const who of [ines, piet]) expect((await post('self', attempt, who, own)).status).toBe(403);
  });
  it('tells nothing once it is signed, and its result once it is released; then the judgement stays as it was', async () => {
    await sign(attempt);
    expect([(await view(attempt)).attempt.state, (await view(attempt)).result]).toEqual(['grading', null]);
    await release(attempt);
    const v = await view(attempt);
    expect([v.attempt.state, v.attempt.passed, v.report?.grade.grader]).toEqual(['seen', true, 'Ines Caldera']);
    expect(v.result?.score.total).toBe(v.attempt.total);
    expect(v.drills.width?.about).toBe('margin.width');
    expect((await post('self', attempt, greta, own)).status).toBe(409);
  });
  it('that came back unjudged waits for a judgement, or for saying that they would rather not', async () => {
    const next = await school.measured(hugo, SOUND);
    await sign(next);
    await release(next);
    expect([(await view(next)).attempt.state, (await view(next)).attempt.total, (await view(next)).result]).toEqual(['back', null, null]);
    expect((await progressView(school.app.db, 'H08', ['c1'], true)).attempts).toBe(0);
    expect((await progressView(school.app.db, 'H08', ['c1'], false)).attempts).toBe(1);
    expect((await post('self', next, hugo, { lines: [], minutes: null })).status).toBe(200);
    expect((await view(next)).attempt.state).toBe('seen');
    expect((await progressView(school.app.db, 'H08', ['c1'], true)).attempts).toBe(1);
  });
  it('stands on their first page, with the sittings to come, and nobody else’s', async () => {
    const day = await ownDay(school.app.db, 'H07', ['c1'], '2026-01-01');
    expect(day.attempts.map((a) => a.id)).toEqual([attempt]);
    expect(day.coming.length).toBeGreaterThan(0);
    expect(await ownDay(school.app.db, 'H07', [], '2026-01-01')).toMatchObject({ coming: [] });
  });
  it('judged by oneself is held against what was signed, from three lines on', async () => {
    expect((await selfView(school.app.db, 'H07', ['c1'], true)).levels).toBeNull();
    // Given 3, 3 and 2 where 0, 3 and 3 were signed: off by +3, 0 and −1, 2⁄3 on average.
    await school.app.db.run(
      sql`insert into graded_line (grade_id, line, title, level, out_of) select grade_id, 'more', 'More', 3, 1 from graded_line where line = 'width' and grade_id in (select id from grade where attempt_id = ${attempt})`,
    );
    const lines = [
      { line: 'width', level: 3, figure: 0.5 },
      { line: 'taper', level: 3, figure: null },
      { line: 'more', level: 2, figure: null },
    ];
    await school.app.db.run(sql`update self_assessment set lines = ${JSON.stringify(lines)}::jsonb where attempt_id = ${attempt}`);
    const judged = (await selfView(school.app.db, 'H07', ['c1'], true)).levels;
    expect(judged?.bias).toBeCloseTo(2 / 3, 10);
    expect([judged?.of, judged?.isBiased]).toEqual([3, false]);
  });
  it('costs practice, which is ticked off once a day', async () => {
    const tick = (who: Parameters<School['call']>[1], course = 'c1') =>
      school.call('/api/practice', who, {}, { course, skill: 'margin.width' });
    expect([(await tick(greta)).status, (await tick(greta)).status]).toEqual([200, 200]);
    expect((await tick(greta, 'c2')).status).toBe(404);
    expect((await tick(ines)).status).toBe(404);
    const { practice } = await progressView(school.app.db, 'H07', ['c1'], true);
    expect(practice.find((p) => p.id === 'margin.width')?.done).toHaveLength(1);
  });
});

describe('a result', () => {
  const target = (point: readonly number[] | null, deciding = true) => ({ deciding, point, verdict: 'outside', reading: 'margin.width' });
  const line = (id: string, points: number | null, of: number, targets: unknown[] = [], verdict = 'outside') => ({
    id,
    title: id,
    points,
    lost: points === null ? null : of - points,
    of,
    verdict,
    targets,
    pins: [],
  });
  const score = {
    criteria: [
      line('fine', 10, 10, [], 'inside'),
      line('little', 8, 10, [target([1, 2, 3])]),
      line('most', 0, 20, [target(null), { ...target([4, 5, 6], false) }]),
      line('none', null, 5),
      line('left out', 0, 0, [], 'skipped'),
    ],
  } as never;
  it('tells the dearest first and numbers it as on the tooth; what does not apply and what is open cost nothing', () => {
    expect(findingsOf(score).map((f) => [f.number, f.criterion.id, f.lost])).toEqual([
      [1, 'most', 20],
      [2, 'little', 2],
    ]);
    expect(goodOf(score).map((c) => c.id)).toEqual(['fine', 'none']);
  });
  it('marks where each was decided, else where it was found', () =>
    expect(marksOf(findingsOf(score), 'little').map((m) => [m.number, m.point, m.strong])).toEqual([
      [1, [4, 5, 6], false],
      [2, [1, 2, 3], true],
    ]));
});

describe('the form for one’s own judgement', () => {
  const view = { questions: [{ id: 'a' }, { id: 'b' }], own: null } as never;
  it('keeps what was begun, leaves out what is no longer asked, and sends only what was said', () => {
    const draft: SelfForm = {
      lines: [
        { line: 'b', level: 1, figure: null },
        { line: 'gone', level: 3, figure: null },
      ],
      minutes: 40,
    };
    const form = withLine(formOf(view, draft), 'a', { figure: 0.5 });
    expect(form.lines.map((l) => [l.line, l.level, l.figure])).toEqual([
      ['a', null, 0.5],
      ['b', 1, null],
    ]);
    expect(said(formOf(view, null)).lines).toEqual([]);
    expect(said(form)).toEqual({ lines: form.lines, minutes: 40 });
  });
});

describe('who needs a word by what they say themselves', () => {
  const said = (attempt: number, minutes: number | null, ...levels: (readonly [number, number])[]) => ({ attempt, minutes, levels });
  const steady = [1, 2, 3, 4].map((n) => said(n, 50, [2, 2], [3, 3], [1, 2], [3, 2]));
  it('nobody who judges as they are graded and takes as long as ever', () =>
    expect(ownConcerns([...steady, said(5, 55, [2, 2])])).toEqual([]));
  it('whoever judges a level too kindly, or too hard', () => {
    const off = (by: number) => [1, 2, 3].map((n) => said(n, null, [1 + by, 1], [2 + by, 2], [1 + by, 1]));
    expect(ownConcerns(off(1))).toEqual([{ what: 'misjudges', about: '+1.0', attempt: 3 }]);
    expect(ownConcerns(off(-1))).toEqual([{ what: 'misjudges', about: '−1.0', attempt: 3 }]);
  });
  it('whoever took far longer or shorter than they usually do, from four attempts before', () => {
    expect(ownConcerns([...steady, said(5, 80)])).toEqual([{ what: 'time', about: '80, 50', attempt: 5 }]);
    expect(ownConcerns([...steady, said(5, 25)])).toMatchObject([{ what: 'time' }]);
    expect(ownConcerns([...steady.slice(1), said(5, 80)])).toEqual([]);
  });
});
