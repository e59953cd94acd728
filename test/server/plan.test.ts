import { readFileSync } from 'node:fs';
import { XMLParser } from 'fast-xml-parser';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AtBench, BenchEvent, EventsTaken } from '#contract/at-bench.ts';
import { type DryView, ownCutter, type PlanView } from '#contract/plan.ts';
import { standardFrom } from '#contract/standard.ts';
import { AS_PLANNED } from '#core/dry/way.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { halfTaper_deg } from '#core/plan/cutter.ts';
import { asksOf, guideSection, inHalves } from '#core/plan/guide.ts';
import { guideBody } from '#core/plan/guide-body.ts';
import { lipHeight } from '#core/plan/margin.ts';
import { planFor } from '#core/plan/plan.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { askedFor } from '#server/at-bench/act.ts';
import { planTask } from '#server/children/plan.ts';
import type { Results } from '#server/children/tasks.ts';
import { SHIPPED_KIT } from '#server/course/kit.ts';
import { sql } from '#server/database/port.ts';
import { plannedBeside } from '#server/plan/beside.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { cylinderMaster } from '../helpers/bench-crown.ts';
import { readPdf } from '../helpers/read-pdf.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, piet, greta, hugo } = PEOPLE;
let school: School;
let master: Master;
beforeAll(async () => {
  school = await openSchool();
  const made = new Workshop('16', 12, await solidKernel(), { name: 'x', caries: null, detail: 0.6 }).master;
  master = prepareMaster(made.description, made.meshes);
  const run = (task: Parameters<typeof planTask>[0]) => planTask(task, master);
  Object.assign(school.app, { children: { limits: school.app.children.limits, run } });
  const kept = await school.app.files.keep(new Uint8Array([1, 2, 3]));
  await school.app.db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, 3)`);
  await school.app.db.run(sql`update master set file_sha256 = ${kept.sha256}`);
  await school.app.db.run(
    sql`update exercise set steps = '["occlusal", "axial", "final"]', checks = '{"occlusal": {"check": "Gauge in occlusion.", "needsWord": true}}'`,
  );
});
afterAll(() => school.close());

const call = async <T>(address: string, who: Parameters<School['call']>[1], params: Record<string, string>, payload?: unknown) =>
  (await school.call(address, who, params, payload)) as { status: number; answer: T };
const exercise = { id: 'crown-16' };
const plan = async (): Promise<PlanView> => (await call<PlanView>('/api/exercises/[id]/plan', greta, exercise)).answer;

describe('the plan of an exercise', () => {
  it('is there for everybody of its course, and for nobody else', async () => {
    const p = await plan();
    expect(p.plan.steps[0].id).toBe('depth-cuts');
    expect(p.guide.sections.length).toBeGreaterThan(2);
    expect(p.mayChoose).toBe(false);
    expect((await call('/api/exercises/[id]/plan', STRANGER, exercise)).status).toBe(404);
  });
  it('is chosen by the director where schools differ, and made again', async () => {
    const choices = { depthCuts: 'on the ridges', first: 'margin', depth: 'in two' };
    expect((await call('/api/exercises/[id]/plan', ines, exercise, choices)).status).toBe(403);
    expect((await call('/api/exercises/[id]/plan', maren, exercise, { ...choices, first: 'nothing' })).status).toBe(400);
    expect((await call('/api/exercises/[id]/plan', maren, exercise, choices)).status).toBe(200);
    expect((await plan()).plan.steps[0].id).toBe('axial');
    await call('/api/exercises/[id]/plan', maren, exercise, { depthCuts: 'in the grooves', first: 'occlusal', depth: 'at once' });
  });
});

describe('a dry run', () => {
  const dry = async (form: object) =>
    call<DryView & { message: string }>('/api/exercises/[id]/dry', greta, exercise, {
      tilt_deg: 0,
      sunk_mm: 0,
      onePass: false,
      cutter: null,
      step: 'final',
      ...form,
    });
  /** Cut without any change: what other runs are held against. */
  let planned: DryView;
  beforeAll(async () => {
    planned = (await dry({})).answer;
  });
  const read = (v: DryView, reading: string, zone: string | null) =>
    v.lines.find((l) => l.reading === reading && l.zone === zone) as DryView['lines'][number];
  it('is read as it was planned, and a tilt of 4° makes 8° more of convergence', async () => {
    const { plan: p } = await plan();
    const step = p.steps.find((s) => s.duty === 'margin');
    const cutter = SHIPPED_KIT.cutters.find((c) => c.id === step?.cutter) as (typeof SHIPPED_KIT.cutters)[number];
    const tilted = (await dry({ tilt_deg: 4 })).answer;
    const toc = read(planned, 'toc.faciolingual', null);
    expect(Math.abs((toc.value as number) - 2 * (halfTaper_deg(cutter) + (step?.tilt as number)))).toBeLessThan(toc.U as number);
    expect(toc.verdict).toBe('inside');
    expect(Math.abs((read(tilted, 'toc.faciolingual', null).value as number) - (toc.value as number) - 8)).toBeLessThan(0.5);
    const width = read(planned, 'margin.width', 'facial');
    expect(Math.abs((width.value as number) - (width.expected as number))).toBeLessThan(0.04);
  });
  it('sunk too deep it is deeper by that; cutters that the list lacks and tilts out of reach are refused', async () => {
    const deep = (await dry({ sunk_mm: 0.3 })).answer;
    const zone = planned.lines.find((l) => l.reading === 'reduction.occlusal' && l.value !== null)?.zone as string;
    expect(
      (read(deep, 'reduction.occlusal', zone).value as number) - (read(planned, 'reduction.occlusal', zone).value as number),
    ).toBeCloseTo(0.3, 1);
    expect((await dry({ cutter: 'nothing' })).status).toBe(422);
    expect(await dry({ step: 'polish' })).toMatchObject({ status: 422, answer: { message: expect.stringContaining('depth-cuts') } });
    expect((await dry({ tilt_deg: 40 })).status).toBe(400);
  });
  it('depth cuts are as deep at their bottoms as planned, and not due; sides that nobody cut are not read', async () => {
    const cuts = (await dry({ step: 'depth-cuts' })).answer;
    const groove = read(cuts, 'reduction.occlusal', 'central groove');
    expect(groove).toMatchObject({ stat: 'p95', isDue: false });
    expect(Math.abs((groove.value as number) - (groove.expected as number))).toBeLessThan(0.05);
    expect(cuts.lines.some((l) => l.reading.startsWith('margin.') || l.reading.startsWith('toc.'))).toBe(false);
    const walls = (await dry({ step: 'axial' })).answer;
    expect(read(walls, 'toc.faciolingual', null).verdict).toBe('inside');
    expect(walls.lines.some((l) => l.reading === 'toc.mesiodistal')).toBe(false);
  });
  it('a Class II is brought to the plan on this very tooth; its shell keeps the contact until it is opened', async () => {
    const id = 'class2-amalgam-minimal';
    const standard = standardFrom(JSON.parse(readFileSync(`data/standards/${id}.json`, 'utf8')), id);
    const cutters = SHIPPED_KIT.cutters.map(ownCutter);
    const p = planFor({ kind: 'cavity', tooth: '16', standard, cutters, gauges_mm: [], boxes: ['mesial'] });
    await school.app.files.withFolder(async (outFolder) => {
      const at = async (step: 'box-shell' | 'final') =>
        (await planTask({ kind: 'dry', masterFile: 'own', plan: p, cutters, way: AS_PLANNED, step, outFolder }, master)) as Results['dry'];
      const clearances = (r: Results['dry']) => r.readings.filter((q) => q.name.startsWith('box.clearance.') && q.value !== null);
      const [shell, open] = [await at('box-shell'), await at('final')];
      const planned = p.steps.flatMap((s) => s.readings);
      for (const r of clearances(open)) {
        const final = planned.find((q) => q.reading === r.name)?.final as number;
        expect(Math.abs((r.value as number) - final), r.name).toBeLessThan(0.12);
      }
      expect(clearances(open).length).toBe(3);
      const contact = (r: Results['dry']) => clearances(r).filter((q) => q.name !== 'box.clearance.gingival').length;
      expect(contact(shell)).toBe(0);
    });
  });
});

describe('a reduction guide', () => {
  it('on a cylinder of radius 5 has upright lines at the band’s ends', () => {
    const m = cylinderMaster();
    const standard = {
      lines: [
        {
          id: 'a',
          title: 'a',
          why: '',
          fields: [
            {
              id: 'a',
              reading: 'reduction.axial',
              zone: 'facial mid third',
              stat: 'median',
              unit: 'mm',
              from: 'school',
              band: { lo: 1, hi: 1.5 },
            },
          ],
        },
      ],
    } as const;
    const s = guideSection(m, { name: 'x', at: [0, 0], along: [0, 1] }, asksOf(m, standard));
    // The facial side's middle third: away from the top and the foot.
    const top = Math.max(...m.landmarks.cusps.map((c) => c.at[2]));
    const at = (lines: readonly (readonly (readonly [number, number])[])[]) =>
      lines
        .flat()
        .filter(([u, z]) => u > 2 && z > 0.4 * top && z < 0.6 * top)
        .map(([u]) => u);
    for (const [lines, u] of [
      [s.original, 5],
      [s.least, 4],
      [s.most, 3.5],
    ] as const) {
      expect(at(lines).length).toBeGreaterThan(3);
      for (const x of at(lines)) expect(Math.abs(x - u)).toBeLessThan(0.04);
    }
    // A guide's body begins a gap over the tooth and ends behind its plane.
    const inside = guideBody(m, { name: 'x', at: [0, 0], along: [1, 0] });
    expect(inside([0, -6, 3])).toBeGreaterThan(0.5);
    expect([inside([0, -4, 3]) < 0, inside([0, 6, 3]) < 0]).toEqual([true, true]);
    expect([inHalves(1.27), inHalves(1.5), inHalves(-0.1)]).toEqual([
      [1, 1.5],
      [1.5, 2],
      [0, 0.5],
    ]);
  });
  it('leaves the house to scale: a square of 10 mm in the drawing and on the page', async () => {
    const get = async (as: string) => {
      const modules = await import('#server/plan/guide.ts');
      return modules.guideFile(school.app, greta, 'crown-16', as as 'svg', 0, 'a4');
    };
    const svg = new XMLParser({ ignoreAttributes: false }).parse(String((await get('svg')).content)).svg;
    expect([svg.rect['@_width'], svg.rect['@_height']]).toEqual(['10', '10']);
    expect(Number.parseFloat(svg['@_width'])).toBeCloseTo(Number(String(svg['@_viewBox']).split(' ')[2]), 2);
    const pdf = await readPdf((await get('pdf')).content as Uint8Array);
    // 10 mm are 10 · 72 / 25.4 = 28.346 points.
    expect(pdf.rectangles.some(([, , w, h]) => Math.abs(w - 28.346) < 0.01 && Math.abs(h - 28.346) < 0.01)).toBe(true);
    expect(pdf.text).toContain('measure the square: 10 mm');
    const stl = (await get('stl')).content as Uint8Array;
    const geometry = new STLLoader().parse(stl.slice().buffer as ArrayBuffer);
    geometry.computeBoundingBox();
    const size = geometry.boundingBox;
    expect((size?.max.z ?? 0) - (size?.min.z ?? 0)).toBeGreaterThan(3);
    expect(geometry.getAttribute('position').count).toBeGreaterThan(3000);
  });
  it('the card fits the plan: every step, and what to mind', async () => {
    const { planPdf } = await import('#server/plan/paper.ts');
    const { text, pages } = await readPdf(await planPdf(await plan(), 'a4'));
    expect(text).toContain('Depth cuts');
    expect(text).toContain('Eye protection on');
    expect(pages).toBe(1);
  });
});

describe('at the bench', () => {
  let attempt: string;
  let n = 0;
  const happened = (kind: BenchEvent['kind'], step: string, minute: number, more: Partial<BenchEvent> = {}): BenchEvent => ({
    key: `device-one-${n++}`,
    kind,
    step,
    at: new Date(Date.UTC(2026, 9, 19, 9, minute)).toISOString(),
    entry: null,
    why: '',
    ...more,
  });
  const send = async (events: readonly BenchEvent[], who = greta as Parameters<School['call']>[1]) =>
    call<EventsTaken & { message: string }>('/api/attempts/[id]/bench', who, { id: attempt }, { events });
  it('a student of the course begins a sitting; the same attempt when they come back', async () => {
    const begin = () => call<{ attempt: number }>('/api/sittings/[id]/begin', greta, { id: 'w1' }, {});
    attempt = String((await begin()).answer.attempt);
    expect(String((await begin()).answer.attempt)).toBe(attempt);
    expect((await call('/api/sittings/[id]/begin', ines, { id: 'w1' }, {})).status).toBe(404);
    expect((await call('/api/attempts/[id]/bench', hugo, { id: attempt })).status).toBe(404);
    expect((await call('/api/attempts/[id]/bench', piet, { id: attempt })).status).toBe(403);
  });
  it('keeps what is sent twice once, and counts the minutes of every turn', async () => {
    const entry = { method: 'gauge', place: 'MB', lo: 1, hi: 1.5, felt: '' } as const;
    const first = [
      happened('begin', 'depth-cuts', 0),
      happened('pause', 'depth-cuts', 5),
      happened('begin', 'depth-cuts', 10),
      happened('entry', 'depth-cuts', 11, { entry }),
      happened('done', 'depth-cuts', 12),
    ];
    expect((await send(first)).answer.taken).toHaveLength(5);
    const again = (await send(first)).answer;
    expect([again.taken.length, again.refused]).toEqual([5, []]);
    expect(again.now.events).toHaveLength(5);
    const { steps } = await plannedBeside(school.app, Number(attempt));
    expect(steps).toEqual([{ id: 'Depth cuts', minutes: 7, turns: 2, words: [], photos: [] }]);
  });
  it('tells what cannot stand beside what stands', async () => {
    const late = (await send([happened('done', 'depth-cuts', 13), happened('begin', 'no-step', 13), happened('entry', 'occlusal', 13)]))
      .answer;
    expect(late.refused.map((r) => r.why)).toEqual([
      expect.stringMatching(/finished already/),
      expect.stringMatching(/no step/),
      expect.stringMatching(/figure or how it felt/),
    ]);
    expect((await send([{ ...happened('begin', 'occlusal', 14), at: 'soon' }])).status).toBe(400);
    expect((await send([happened('begin', 'occlusal', 14)], ines)).status).toBe(403);
  });
  it('waits for a word where the course asks for one; whoever asks is seen, the word is one tap with initials', async () => {
    await send(
      ['occlusal', 'functional-bevel', 'check-occlusion'].flatMap((s, i) => [
        happened('begin', s, 20 + 2 * i),
        happened('done', s, 21 + 2 * i),
      ]),
    );
    expect((await send([happened('begin', 'axial', 30)])).answer.refused).toEqual([
      expect.objectContaining({ why: expect.stringMatching(/instructor’s word/) }),
    ]);
    await send([happened('ask', 'check-occlusion', 31)]);
    expect(await askedFor(school.app, ['c1'])).toEqual([
      expect.objectContaining({ name: 'Greta Pohl', bench: 'B1-07', step: 'check-occlusion' }),
    ]);
    const word = { step: 'check-occlusion', word: 'go-on', initials: 'IC', note: '' };
    expect((await call('/api/attempts/[id]/word', greta, { id: attempt }, word)).status).toBe(404);
    expect((await call('/api/attempts/[id]/word', ines, { id: attempt }, { ...word, initials: '' })).status).toBe(400);
    expect((await call('/api/attempts/[id]/word', ines, { id: attempt }, word)).status).toBe(200);
    expect(await askedFor(school.app, ['c1'])).toEqual([]);
    expect((await send([happened('begin', 'axial', 40)])).answer.refused).toEqual([]);
  });
  it('takes the scan of a step from its own student, and no finished work', async () => {
    const bring = (who: Parameters<School['call']>[1], step: string, content = 'solid a') => {
      const form = new FormData();
      form.append('scan', new File([content], 'mine.stl'));
      form.append('step', step);
      return call<{ message: string }>('/api/attempts/[id]/step-scan', who, { id: attempt }, form);
    };
    expect((await bring(hugo, 'occlusal')).status).toBe(404);
    expect((await bring(greta, 'final')).answer.message).toMatch(/brought to the tray/);
    expect((await bring(greta, 'occlusal')).status).toBe(200);
    expect((await bring(greta, 'occlusal')).answer.message).toMatch(/here already/);
    const { coming } = (await call<AtBench>('/api/attempts/[id]/bench', greta, { id: attempt })).answer;
    expect(coming).toEqual([{ step: 'occlusal', state: 'arrived', fault: null }]);
    expect(school.queued).toHaveLength(1);
  });
  it('a new tooth begins every step again and keeps its reason', async () => {
    await send([happened('tooth', 'axial', 50, { why: 'slipped into the neighbour' })]);
    expect((await plannedBeside(school.app, Number(attempt))).teeth).toEqual(['slipped into the neighbour']);
  });
  it('is over once the grade is signed', async () => {
    const done = await school.measured(hugo, SOUND);
    const { gradedOf } = await import('#server/grading/evidence.ts');
    const { attemptById } = await import('#server/grading/rows.ts');
    const { seen } = await gradedOf(school.app.db, (await attemptById(school.app.db, done)) as never, 1);
    await call('/api/attempts/[id]/sign', ines, { id: String(done) }, { seen });
    const taken = (
      await call<EventsTaken>('/api/attempts/[id]/bench', hugo, { id: String(done) }, { events: [happened('begin', 'depth-cuts', 0)] })
    ).answer;
    expect(taken.refused[0].why).toMatch(/signed/);
  });
  it('on the Bench the plan’s figures stand beside what was read', async () => {
    const { lines } = await plannedBeside(school.app, await school.measured(hugo, SOUND));
    const width = lines.find((l) => l.words.startsWith('Margin width, facial'));
    expect(width?.read).toMatch(/0\.60/);
    // 0.60 of a tip of 1.2.
    expect(width?.how).toMatch(/sunk to 50 % of its width/);
    expect(width?.expected).toMatch(/^0\.\d\d mm$/);
    // An angle is no share of a cutter.
    for (const l of lines.filter((q) => /Convergence|over the gingival margin/.test(q.words))) expect(l.how).toBeNull();
    expect(lipHeight(0.6, { tip: 'round', tip_mm: 1.2 })).toBe(0);
  });
});
