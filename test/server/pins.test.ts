import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ScoreView } from '#contract/views.ts';
import { gradesOf } from '#server/grading/rows.ts';
import { benchView } from '#server/view/bench.ts';
import { trayOf } from '#server/view/tray.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const { maren, ines, piet, greta, hugo } = PEOPLE;
let school: School;
let attempt: number;
let other: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
  other = await school.measured(hugo, SOUND);
});
afterAll(() => school.close());

describe('a pin', () => {
  const pin = (payload: unknown, who: Parameters<School['call']>[1] = ines) =>
    school.call('/api/attempts/[id]/pin', who, { id: String(attempt) }, payload) as Promise<{
      status: number;
      answer: ScoreView & { message: string };
    }>;
  it('keeps its place on the picture, its comment and its region', async () => {
    // The tooth of this school is an upper right one, whose picture has mesial on the left.
    const { status, answer } = await pin({ line: 'width', point: [-3, 0.001, 2], note: ' stepped here ' });
    expect(status).toBe(200);
    const [kept] = answer.criteria[0].pins;
    expect(kept.note).toBe('stepped here');
    for (const [i, v] of [-3, 0.001, 2].entries()) expect(kept.point[i]).toBeCloseTo(v, 6);
    expect(kept.azimuth).toBeCloseTo(90, 0);
    expect(answer.criteria[1].pins).toEqual([]);
  });
  it('goes into the signed record in the master’s own frame', async () => {
    const { seen } = ((await benchView(school.app.db, attempt, ines)) as NonNullable<Awaited<ReturnType<typeof benchView>>>).score;
    await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen });
    const [grade] = await gradesOf(school.app.db, attempt);
    expect(grade.record.pins).toEqual([expect.objectContaining({ line: 'width', x: 3, note: 'stepped here', person: 'I2' })]);
  });
  it('is taken out again', async () => {
    const { answer } = await pin({ line: 'width', point: [0, 3, 2], note: '' });
    const gone = await pin({ remove: answer.criteria[0].pins[0].id });
    expect(gone.answer.criteria[0].pins.map((p) => p.note)).toEqual(['']);
  });
  it('is not set for a criterion that is not there, off the map, or by a student', async () => {
    expect((await pin({ line: 'colour', point: [0, 0, 0], note: '' })).status).toBe(404);
    expect((await pin({ line: 'width', point: [0, 0, 900], note: '' })).status).toBe(400);
    expect((await pin({ line: 'width', point: [0, 0, 0], note: '' }, greta)).status).toBe(404);
  });
});

describe('sharing out', () => {
  const give = (attempts: number[], graders: string[], who: Parameters<School['call']>[1] = maren) =>
    school.call('/api/sittings/[id]/graders', who, { id: 'w1' }, { attempts, graders }) as Promise<{
      status: number;
      answer: { message: string };
    }>;
  const whose = async () => Object.fromEntries((await trayOf(school.app, 'w1', ines, 'c1')).map((r) => [r.student_id, r.grader_name]));
  it('goes in turn through the graders, in the order of the students’ names', async () => {
    expect((await give([other, attempt], ['I2', 'D1'])).status).toBe(200);
    expect(await whose()).toEqual({ H07: 'Ines Caldera', H08: 'Maren Holt' });
  });
  it('is undone by assigning to nobody', async () => {
    await give([attempt], []);
    expect(await whose()).toEqual({ H07: null, H08: 'Maren Holt' });
  });
  it('refuses strangers, students as graders, other sittings and people who may not', async () => {
    expect((await give([attempt], ['H08'])).answer.message).toContain('no instructor');
    expect((await give([attempt, 999], ['I2'])).status).toBe(404);
    expect((await give([], ['I2'])).answer.message).toContain('choose at least one');
    expect((await give([attempt], ['I2'], piet)).status).toBe(403);
    expect((await give([attempt], ['I2'], greta)).status).toBe(403);
  });
});
