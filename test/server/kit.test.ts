import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SittingPeople } from '#contract/course.ts';
import { GradeFile } from '#contract/grade.ts';
import { KIT_LISTS, KitFile, type KitView } from '#contract/kit.ts';
import type { RubricFile } from '#contract/rubric.ts';
import { Settings } from '#contract/settings.ts';
import type { StandardView } from '#contract/standard-view.ts';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { settingsOf } from '#server/account/settings.ts';
import { bookOf } from '#server/course/view.ts';
import { sql } from '#server/database/port.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { previewOf } from '#server/scans/bring.ts';
import shipped from '../../data/kit.json' with { type: 'json' };
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, greta } = PEOPLE;
let school: School;
beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

type Who = Parameters<School['call']>[1];
const call = <T>(who: Who, address: string, params: Record<string, string>, payload?: unknown) =>
  school.call(address, who, params, payload) as unknown as Promise<{ status: number; answer: T & { message: string } }>;
const kit = (who: Who, payload?: unknown) => call<KitView & { version: number }>(who, '/api/courses/[id]/kit', { id: 'c1' }, payload);

describe('what ships', () => {
  it('is valid, and drills ask for cutters that are in the list', () => {
    const k = v.parse(KitFile, shipped);
    for (const l of KIT_LISTS) expect(k[l].length).toBeGreaterThan(2);
    for (const d of k.drills) expect(d.cutter === '' || k.cutters.some((c) => c.id === d.cutter), d.title).toBe(true);
  });
  it('phrases and drills speak of readings that there are', () => {
    const names = (about: string) => CATALOGUE.some((e) => e.name.startsWith(about));
    for (const i of [...shipped.phrases, ...shipped.drills]) expect(names(i.about), i.about).toBe(true);
  });
});

describe('a list of a course', () => {
  it('is what ships until the course has its own, and everybody of the course sees it', async () => {
    const { answer } = await kit(greta);
    expect(answer.versions).toEqual({ cutters: 0, gauges: 0, phrases: 0, drills: 0 });
    expect(answer.kit.cutters).toEqual(shipped.cutters);
    expect((await kit(STRANGER)).status).toBe(404);
  });
  it('is the director’s to change, by versions, and what the Bench offers follows it', async () => {
    const items = [{ id: 'p1', about: 'margin', side: 'over', body: 'Half a tip at {place}.' }];
    const edit = { list: 'phrases', version: 0, items };
    expect((await kit(ines, edit)).status).toBe(403);
    expect((await kit(maren, edit)).answer.version).toBe(1);
    expect((await kit(maren, edit)).status).toBe(409);
    expect((await kit(maren)).answer.kit.phrases).toEqual(items);
  });
  it('names the field that is wrong', async () => {
    const bad = { ...shipped.cutters[1], shank_mm: 0.8, tip_mm: 1.2 };
    const r = await kit(maren, { list: 'cutters', version: 0, items: [bad] });
    expect([r.status, r.answer.message]).toEqual([400, expect.stringMatching(/no wider at its tip/)]);
    const twice = await kit(maren, { list: 'gauges', version: 0, items: [shipped.gauges[0], shipped.gauges[0]] });
    expect(twice.answer.message).toMatch(/same id/);
  });
  it('does not lose a cutter that a drill asks for', async () => {
    const r = await kit(maren, { list: 'cutters', version: 0, items: shipped.cutters.filter((c) => c.id !== 'needle') });
    expect([r.status, r.answer.message]).toEqual([422, expect.stringMatching(/Leave a shell/)]);
    const d = await kit(maren, { list: 'drills', version: 0, items: [{ ...shipped.drills[0], cutter: 'nobody' }] });
    expect(d.status).toBe(422);
  });
});

describe('an exercise in use', () => {
  const change = { title: 'Crown, slowly', minutes: 120, cutters: ['needle'] };
  const steps = [
    { step: 'occlusal', check: 'The gauge passes.', needsWord: true },
    { step: 'final', check: '', needsWord: false },
  ];
  const set = (who: Who, payload: unknown) => call(who, '/api/exercises/[id]', { id: 'crown-16' }, payload);
  it('keeps its steps with their checks, its time and its cutters', async () => {
    expect((await set(ines, { ...change, steps })).status).toBe(403);
    expect((await set(maren, { ...change, steps })).status).toBe(200);
    const { answer } = await call<{ exercises: unknown[] }>(maren, '/api/courses/[id]', { id: 'c1' });
    expect(answer.exercises).toMatchObject([{ title: 'Crown, slowly', minutes: 120, steps, cutters: ['needle'] }]);
  });
  it('always ends with the finished work, and knows its cutters', async () => {
    expect((await set(maren, { ...change, steps: steps.slice(0, 1) })).answer.message).toMatch(/finished work/);
    expect((await set(maren, { ...change, steps, cutters: ['spoon'] })).status).toBe(422);
  });
});

describe('two abutments', () => {
  const set = (id: string, abutment: string | null) =>
    call(
      maren,
      '/api/exercises/[id]',
      { id },
      { title: id, minutes: 60, cutters: [], steps: [{ step: 'final', check: '', needsWord: false }], abutment },
    );
  const partners = async () => {
    const { answer } = await call<{ exercises: { id: string; abutment: string | null }[] }>(maren, '/api/courses/[id]', { id: 'c1' });
    return Object.fromEntries(answer.exercises.map((e) => [e.id, e.abutment]));
  };
  beforeAll(async () => {
    for (const [id, tooth] of [
      ['b-14', '14'],
      ['b-17', '17'],
      ['b-46', '46'],
    ])
      await school.app.db.run(
        sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id) select ${id}, course_id, ${id}, ${tooth}, kind, master_id, rubric_version_id from exercise where id = 'crown-16'`,
      );
  });
  afterAll(() => school.app.db.run(sql`delete from exercise where id like 'b-%'`));
  it('name each other, and a new partner frees the old one', async () => {
    expect((await set('b-14', 'crown-16')).status).toBe(200);
    expect(await partners()).toEqual({ 'b-14': 'crown-16', 'crown-16': 'b-14', 'b-17': null, 'b-46': null });
    expect((await set('b-17', 'b-14')).status).toBe(200);
    expect(await partners()).toEqual({ 'b-14': 'b-17', 'b-17': 'b-14', 'crown-16': null, 'b-46': null });
    expect((await set('b-14', null)).status).toBe(200);
    expect(Object.values(await partners())).toEqual([null, null, null, null]);
  });
  it('are different teeth of one jaw and one course', async () => {
    for (const [id, other] of [
      ['b-14', 'b-46'],
      ['b-14', 'b-14'],
      ['b-14', 'nothing'],
    ])
      expect((await set(id, other)).status).toBe(422);
    await school.app.db.run(sql`update exercise set kind = 'cavity' where id = 'b-17'`);
    expect((await set('b-14', 'b-17')).answer.message).toMatch(/path of insertion/);
  });
});

describe('who and where of a sitting', () => {
  const set = (p: Partial<SittingPeople>, who: Who = maren) =>
    call(who, '/api/sittings/[id]/people', { id: 'w2' }, { graders: [], seats: [], absences: [], ...p });
  it('a bench of that day is what a file’s name means that day, and only that day', async () => {
    expect((await set({ seats: [{ person: greta.id, bench: 'B9-09' }] }, ines)).status).toBe(403);
    expect((await set({ seats: [{ person: greta.id, bench: 'B9-09' }] })).status).toBe(200);
    const named = async (sitting: string, file: string) => (await previewOf(school.app, sitting, [file]))[0].student ?? null;
    expect([await named('w2', 'B9-09.stl'), await named('w1', 'B9-09.stl')]).toEqual([greta.id, null]);
    expect([await named('w2', 'B1-07.stl'), await named('w1', 'B1-07.stl')]).toEqual([null, greta.id]);
  });
  it('a bench belongs to one student', async () => {
    const other = Object.values(PEOPLE).find((p) => p.id !== greta.id && p.roles.c1?.includes('student'));
    const r = await set({ seats: [{ person: greta.id, bench: `B1-${other?.id.slice(1)}` }] });
    expect([r.status, r.answer.message]).toEqual([409, expect.stringContaining(other?.name ?? '')]);
    const freed = await set({
      seats: [{ person: greta.id, bench: `B1-${other?.id.slice(1)}` }],
      absences: [{ person: other?.id ?? '', reason: 'ill' }],
    });
    expect(freed.status).toBe(200);
    expect((await bookOf(school.app.db, 'c1')).absences).toEqual([{ student_id: other?.id, sitting_id: 'w2', reason: 'ill' }]);
  });
  it('only instructors grade, only students are absent, and nobody who handed in work', async () => {
    expect((await set({ graders: [greta.id] })).status).toBe(422);
    expect((await set({ absences: [{ person: ines.id, reason: '' }] })).status).toBe(422);
    await school.arrived(greta, 'a scan', { sitting: 'w2' });
    const r = await set({ absences: [{ person: greta.id, reason: 'ill' }] });
    expect([r.status, r.answer.message]).toEqual([409, expect.stringContaining('Greta Pohl')]);
    expect((await set({ graders: [ines.id] })).status).toBe(200);
    expect((await bookOf(school.app.db, 'c1')).sittings.find((s) => s.id === 'w2')).toMatchObject({ graders: ['Ines Caldera'], absent: 0 });
  });
});

describe('a standard', () => {
  const of = (who: Who, payload?: unknown, name = 'metal-examination') =>
    call<StandardView & { version: number }>(who, '/api/courses/[id]/standards/[standard]', { id: 'c1', standard: name }, payload);
  it('is what ships until the course has its own version', async () => {
    const { answer } = await of(ines);
    expect([answer.version, answer.body.id, answer.shipped?.id]).toEqual([0, 'metal-examination', 'metal-examination']);
    expect(answer.rubrics.map((r) => r.id)).toContain('metal-crown-practice');
    expect((await of(ines, undefined, 'no-such')).status).toBe(404);
    expect((await of(ines, undefined, '../rubrics/small')).status).toBe(404);
  });
  it('is kept by versions; another kind, an unknown reading and a band back to front are refused', async () => {
    const { answer: view } = await of(maren);
    const body = structuredClone(view.body);
    const [line] = body.lines;
    line.fields[0].band = { lo: 0.7, hi: 1.9 };
    expect((await of(ines, { body, version: 0 })).status).toBe(403);
    expect((await of(maren, { body: { ...body, kind: 'cavity' }, version: 0 })).status).toBe(422);
    const wrong = structuredClone(body);
    wrong.lines[0].fields[0].reading = 'no.such';
    expect((await of(maren, { body: wrong, version: 0 })).answer.message).toMatch(/nearest are/);
    const back = structuredClone(body);
    back.lines[0].fields[0].band = { lo: 2, hi: 1 };
    expect((await of(maren, { body: back, version: 0 })).answer.message).toMatch(/ends before it begins/);
    expect((await of(maren, { body, version: 0 })).answer.version).toBe(1);
    expect((await of(maren, { body, version: 0 })).status).toBe(409);
    expect((await of(maren)).answer.body.lines[0].fields[0].band).toEqual({ lo: 0.7, hi: 1.9 });
  });
  it('another course keeps what ships', async () => {
    const { answer } = await call<StandardView>(STRANGER, '/api/courses/[id]/standards/[standard]', {
      id: 'c2',
      standard: 'metal-examination',
    });
    expect(answer.version).toBe(0);
  });
  it('offers its change to its rubrics: what was the standard’s follows, what is the course’s stays', async () => {
    const rubric = { id: 'c1', rubric: 'metal-crown-practice' };
    const before = (await call<{ body: RubricFile }>(maren, '/api/courses/[id]/rubrics/[rubric]', rubric)).answer.body;
    const { answer: after } = await call<RubricFile>(maren, '/api/courses/[id]/rubrics/[rubric]/proposed', rubric);
    const field = (await of(maren)).answer.body.lines[0].fields[0].id;
    const target = (r: RubricFile) => r.criteria.flatMap((c) => c.targets).find((t) => t.field === field);
    expect(target(before)?.own ? target(after)?.band : { lo: 0.7, hi: 1.9 }).toEqual(target(after)?.band);
    // The bevel in line with the neighbours' cusps is the standard's, and was left out of this rubric: it stays out.
    expect(after.criteria.map((c) => [c.id, c.weight])).toEqual(before.criteria.map((c) => [c.id, c.weight]));
    expect(after.critical.map((e) => e.id)).toEqual(before.critical.map((e) => e.id));
  });
  it('gives a new rubric, whose name must be free', async () => {
    const make = (payload: unknown) =>
      call(maren, '/api/courses/[id]/standards/[standard]/rubric', { id: 'c1', standard: 'metal-examination' }, payload);
    expect((await make({ id: 'metal-crown-practice', name: 'X', style: 'practice' })).status).toBe(409);
    expect((await make({ id: 'Crown!', name: 'X', style: 'practice' })).status).toBe(400);
    expect((await make({ id: 'crown-spring', name: 'Crown, spring', style: 'examination' })).status).toBe(200);
    const { answer } = await call<{ body: RubricFile; kind: string }>(maren, '/api/courses/[id]/rubrics/[rubric]', {
      id: 'c1',
      rubric: 'crown-spring',
    });
    expect([answer.kind, answer.body.scoring?.kind, answer.body.criteria[0].targets[0].band]).toEqual([
      'crown',
      'examination',
      { lo: 0.7, hi: 1.9 },
    ]);
  });
  it('stands in a signed record as the course had it', async () => {
    const { answer: view } = await of(maren, undefined, 'zirconia-posterior');
    const body = { ...view.body, note: 'our own words' };
    expect((await of(maren, { body, version: 0 }, 'zirconia-posterior')).status).toBe(200);
    const attempt = await school.measured(greta, SOUND);
    const { seen } = await gradedOf(school.app.db, (await attemptById(school.app.db, attempt)) as never, 1);
    expect((await call(ines, '/api/attempts/[id]/sign', { id: String(attempt) }, { seen })).status).toBe(200);
    const { record } = await school.app.db.one(
      v.object({ record: GradeFile }),
      sql`select record from grade where attempt_id = ${attempt}`,
    );
    expect(record.standard?.body).toMatchObject({ id: 'zirconia-posterior', note: 'our own words' });
  });
});

describe('one’s own settings', () => {
  it('are kept one by one, and nonsense is refused', async () => {
    const set = (who: Who, payload: unknown) => call<Settings>(who, '/api/settings', {}, payload);
    expect((await set(null, { digits: 1 })).status).toBe(401);
    expect((await set(greta, { digits: 1 })).answer).toMatchObject({ digits: 1, numbering: 'fdi' });
    expect((await set(greta, { numbering: 'palmer' })).answer).toMatchObject({ digits: 1, numbering: 'palmer' });
    expect((await set(greta, { digits: 7 })).status).toBe(400);
    expect((await set(greta, { keys: { on: true, own: { sign: 'ss' } } })).status).toBe(400);
    expect(await settingsOf(school.app.db, ines.id)).toEqual(v.parse(Settings, {}));
  });
});
