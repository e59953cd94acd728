import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DraftView } from '#contract/master-draft.ts';
import { agrees } from '#contract/trial.ts';
import { applyPoint, fromRotation, fromTranslation, invertRigid, multiply } from '#core/linalg/rigid.ts';
import { distance, type Vec3 } from '#core/linalg/vec.ts';
import { intoFrame, type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { Fault } from '#core/result/fault.ts';
import { reading, refusal } from '#core/result/reading.ts';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { type MasterTask, masterTask } from '#server/children/masters.ts';
import { TaskFault } from '#server/children/pool.ts';
import { attemptById } from '#server/grading/rows.ts';
import { differences } from '#server/masters/compared.ts';
import { masterZip } from '#server/masters/finish.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { facialBite } from '../helpers/bite.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';
import { sameNumbers } from '../helpers/within.ts';

const { maren, ines, piet, greta } = PEOPLE;
let school: School;
let arch: Uint8Array;
let pulp: Uint8Array;
let opposing: Uint8Array;
let bite: Uint8Array;
/** Where the opposing file lies against the arch's, in millimetres. */
const elsewhere = multiply(fromTranslation([25, 8, -4]), fromRotation([0.3, 1, 0.1], 1.2));
let touch: Vec3;
let attempt: number;

beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
  // The child's work is done on the spot; that children can be ended is tested with the pool.
  const run = async (task: MasterTask) => {
    try {
      return await masterTask(task, FILE_LIMITS);
    } catch (e) {
      if (e instanceof Fault) throw new TaskFault(e.code, e.message);
      throw e;
    }
  };
  Object.assign(school.app, { children: { limits: FILE_LIMITS, run } });
  const { description, meshes } = new Workshop('16', 12, await solidKernel(), { name: 'x', caries: null, detail: 0.6 }).master;
  // A tenth of the size of millimetres: the file is in centimetres.
  const mesh = meshes.arch.mesh;
  arch = writeStl(
    makeMesh(
      'master',
      mesh.positions.map((v) => v / 10),
      mesh.triangles,
    ),
  );
  const body = meshes.pulp;
  if (!body) throw new Error('the simulator gives a pulp');
  pulp = writeStl(
    makeMesh(
      'master',
      body.positions.map((v) => v / 10),
      body.triangles,
    ),
  );
  const inCm = (m: Mesh) =>
    writeStl(
      makeMesh(
        'master',
        m.positions.map((v) => v / 10),
        m.triangles,
      ),
    );
  const jaw = meshes.opposing as Mesh;
  opposing = inCm(intoFrame(jaw, elsewhere, 'master'));
  bite = inCm(facialBite(mesh, jaw, description.facial));
  touch = [0, 1, 2].map((k) => description.cusps.reduce((s, c) => s + c.at[k] / description.cusps.length, 0)) as [number, number, number];
});
afterAll(() => school.close());

const bring = (who: typeof piet | typeof STRANGER, content: Uint8Array | string, tooth = '16', name = 'Own series') => {
  const form = new FormData();
  form.set('name', name);
  form.set('tooth', tooth);
  form.append('mesh', new File([content as BlobPart], 'arch.stl'));
  form.append('role', 'arch');
  form.append('mesh', new File([pulp as BlobPart], 'pulp.stl'));
  form.append('role', 'pulp');
  for (const [role, file] of [
    ['opposing', opposing],
    ['bite', bite],
  ] as const) {
    form.append('mesh', new File([file as BlobPart], `${role}.stl`));
    form.append('role', role);
  }
  return school.call('/api/courses/[id]/masters', who, { id: 'c1' }, form) as Promise<{
    status: number;
    answer: { id: string; message: string };
  }>;
};
const draft = async (id: string): Promise<DraftView> =>
  ((await school.call('/api/masters/[id]', piet, { id })) as { answer: DraftView }).answer;
const act = (who: typeof piet | typeof greta | typeof maren, what: string, id: string, payload: unknown) =>
  school.call(`/api/masters/[id]${what}`, who, { id }, payload) as Promise<{
    status: number;
    answer: { message: string; version: number; master: string };
  }>;

describe('an arch that is brought', () => {
  it('is taken from whoever keeps masters, and from nobody else', async () => {
    expect((await bring(greta as never, arch)).status).toBe(403);
    expect((await bring(STRANGER, arch)).status).toBe(404);
  });
  it('is refused with the reason when it is none, or no tooth is named', async () => {
    const none = await bring(piet, 'solid nothing\nendsolid');
    expect([none.status, /triangle|STL/.test(none.answer.message)]).toEqual([422, true]);
    const tooth = await bring(piet, arch, '19');
    expect([tooth.status, tooth.answer.message]).toEqual([400, expect.stringMatching(/two digits/)]);
  });
});

describe('from its file to an exercise', () => {
  let id: string;
  let next: string;
  it('says that its lengths are no millimetres, and takes them as what a person says', async () => {
    id = (await bring(piet, arch)).answer.id;
    expect((await draft(id)).checks.find((c) => c.what === 'unit')).toMatchObject({ state: 'stop', factors: [10, 25.4] });
    expect((await act(piet, '/touch', id, { at: touch, mesialward: null })).status).toBe(409);
    expect((await act(piet, '/unit', id, { factor: 10 })).status).toBe(200);
    expect((await draft(id)).checks.find((c) => c.what === 'unit')).toMatchObject({ state: 'fine' });
  });
  it('cannot be finished before it was touched', async () => expect((await act(piet, '/finish', id, {})).status).toBe(409));
  it('one touch proposes its marks', async () => {
    expect((await act(piet, '/touch', id, { at: touch, mesialward: null })).status).toBe(200);
    const d = await draft(id);
    expect(d.marks?.cusps.map((c) => c.name).sort()).toEqual(['DB', 'DL', 'MB', 'ML']);
    expect(d.teeth.map((t) => t.tooth).sort()).toEqual(['15', '16', '17']);
  });
  it('keeps what was drawn, but not over what somebody else drew since', async () => {
    const { version, name, marks, strokes, trust } = await draft(id);
    const own = { version, name, marks, strokes, trust };
    expect((await act(piet, '', id, own)).answer.version).toBe(version + 1);
    const late = await act(ines as never, '', id, own);
    expect([late.status, late.answer.message]).toEqual([409, expect.stringMatching(/Somebody else/)]);
  });
  it('is not finished while a person has something to say', async () => {
    const { version, name, marks, strokes, trust } = await draft(id);
    const asked = { ...trust, mesial: 'ask' };
    await act(piet, '', id, { version, name, marks, strokes, trust: asked });
    expect((await act(piet, '/finish', id, {})).answer.message).toMatch(/mesial/);
    await act(piet, '', id, { version: version + 1, name, marks, strokes, trust });
  });
  it('a bite scan brings the opposing arch to its place', async () => {
    const { status } = await act(piet, '/occlude', id, { by: 'bite', settle: false, pairs: null });
    expect(status).toBe(200);
    const { occlusion, marks } = await draft(id);
    const truth = invertRigid(elsewhere);
    // A millimetre's tenth at the tooth, which stands 30 mm from where the file's own middle lies.
    for (const p of [touch, [touch[0] + 6, touch[1], touch[2]] as Vec3]) {
      const inFile = applyPoint(elsewhere, p);
      expect(distance(applyPoint(occlusion?.matrix ?? [], inFile), applyPoint(truth, inFile))).toBeLessThan(0.1);
    }
    expect(Object.keys(marks?.opposingAxes ?? {})).toContain('46');
    expect((await school.call('/api/masters/[id]/opposing', piet, { id })).status).toBe(200);
  });
  it('three places in one line bring nothing together', async () => {
    const pairs = [0, 1, 2].map((k) => ({ scan: [k, 0, 0], master: [k, 0, 0] }));
    const { status, answer } = await act(piet, '/occlude', id, { by: 'points', settle: true, pairs });
    expect([status, answer.message]).toEqual([400, expect.stringMatching(/in one line/)]);
  });
  it('a crown cut into it is read as it was cut', async () => {
    expect((await act(piet, '/trial', id, {})).status).toBe(200);
    const lines = (await draft(id)).trial?.lines ?? [];
    expect(lines.length).toBeGreaterThan(30);
    expect(lines.filter((l) => agrees(l) === true).length / lines.length).toBeGreaterThan(0.93);
    // Figures of the recipe itself.
    expect(lines.find((l) => l.name === 'toc.mean')?.cut).toBeCloseTo(12, 6);
    expect(lines.find((l) => l.name === 'margin.width' && l.zone === 'facial')?.cut).toBeCloseTo(0.6, 6);
  });
  it('finished it stays as it is', async () => {
    const { status, answer } = await act(piet, '/finish', id, {});
    expect([status, answer.master]).toEqual([200, `own-${id}`]);
    const { bytes } = await masterZip(school.app, id);
    // The body inside went with it, in millimetres like the arch.
    expect(Object.keys(unzipSync(bytes)).sort()).toEqual(['arch.ply', 'master.json', 'opposing.ply', 'pulp.ply']);
    expect((await act(piet, '/touch', id, { at: touch, mesialward: null })).status).toBe(409);
  });
  it('shared and taken in again it is the same, what nobody here reads included', async () => {
    const files = unzipSync((await masterZip(school.app, id)).bytes);
    const json = JSON.parse(new TextDecoder().decode(files['master.json']));
    const sent = zipSync({ ...files, 'master.json': new TextEncoder().encode(JSON.stringify({ ...json, shelf: 'B 4' })) });
    const form = new FormData();
    form.append('mesh', new File([sent as BlobPart], 'shared.zip'));
    form.append('role', 'shared');
    const { status, answer } = (await school.call('/api/courses/[id]/masters', piet, { id: 'c1' }, form)) as {
      status: number;
      answer: { id: string };
    };
    expect(status).toBe(200);
    const there = await draft(answer.id);
    expect(there.marks?.cusps).toEqual(json.cusps);
    expect([there.opposing_name, there.inner]).toEqual(['shared.zip', ['pulp']]);
    expect((await act(piet, '/finish', answer.id, {})).status).toBe(200);
    const again = unzipSync((await masterZip(school.app, answer.id)).bytes);
    expect(JSON.parse(new TextDecoder().decode(again['master.json']))).toEqual({ ...json, shelf: 'B 4' });
    expect(sameNumbers(again['arch.ply'], files['arch.ply'])).toBe(true);
  });
  it('its marks are taken over by the next arch of that tooth', async () => {
    next = (await bring(piet, arch, '16', 'Second cast')).answer.id;
    await act(piet, '/unit', next, { factor: 10 });
    expect((await act(piet, '/carry', next, { from: `own-${id}` })).status).toBe(409);
    await act(piet, '/touch', next, { at: touch, mesialward: null });
    expect((await act(piet, '/carry', next, { from: `own-${id}` })).status).toBe(200);
    const [own, other] = [await draft(id), await draft(next)];
    for (const c of other.marks?.cusps ?? [])
      expect(Math.min(...(own.marks?.cusps ?? []).map((k) => distance(k.at, c.at)))).toBeLessThan(0.05);
    expect(other.trust?.cusps).toBe('sure');
    expect((await act(piet, '/carry', next, { from: 'nobody' })).status).toBe(404);
  });
  it('a director says that an exercise uses it; what was measured before keeps its own master', async () => {
    expect((await act(piet, '/use', id, { exercise: 'crown-16' })).status).toBe(403);
    const before = await attemptById(school.app.db, attempt);
    expect((await act(maren, '/use', id, { exercise: 'crown-16' })).status).toBe(200);
    const after = await attemptById(school.app.db, attempt);
    expect(after?.master).toEqual(before?.master);
    const fresh = await attemptById(school.app.db, await school.measured(PEOPLE.hugo, SOUND));
    expect(fresh?.master.cusps.map((c) => c.name).sort()).toEqual(['DB', 'DL', 'MB', 'ML']);
    expect(fresh?.master).not.toEqual(before?.master);
  });
  it('a new version is compared with the one in use before it takes its place', async () => {
    expect((await act(piet, '/compare', next, { exercise: 'crown-16' })).status).toBe(409);
    await act(piet, '/finish', next, {});
    expect((await act(piet, '/compare', next, { exercise: 'crown-16' })).status).toBe(200);
    const c = (await draft(next)).compared;
    // The same cast twice: nothing lies elsewhere but what marks taken over differ by.
    expect(c?.with).toBe(`own-${id}`);
    expect(c?.axis_deg).toBeLessThan(0.5);
    expect(c?.surface_mm).toBeLessThan(0.02);
    expect(Math.max(...(c?.cusps.map((k) => k.off_mm ?? 9) ?? []))).toBeLessThan(0.06);
    expect(c?.scans.length).toBeGreaterThan(0);
    expect((await act(piet, '/compare', id, { exercise: 'crown-16' })).answer.message).toMatch(/already/);
  });
});

it('readings of two versions differ where they lie farther apart than both uncertainties together', () => {
  const of = (zone: string, value: number | null, U = 0.03) =>
    (value === null
      ? refusal('margin.width', zone, ['median'], 'not-seen')
      : [reading({ name: 'margin.width', zone, stat: 'median', value, U, coverage: 1, samples: 9 })])[0];
  const before = [of('facial', 0.5), of('mesial', 0.5), of('distal', 0.6), of('lingual', null), of('mesiofacial', 0.4)];
  const after = [of('facial', 0.53), of('mesial', 0.55), of('distal', 0.9), of('lingual', 0.7), of('mesiofacial', null)];
  // √2 · 0.03 = 0.042: 0.03 lies within, 0.05 and 0.3 do not; the larger comes first.
  const d = differences(before, after);
  expect(d.differ.map((r) => r.zone)).toEqual(['distal', 'mesial']);
  expect([d.readings, d.lost, d.gained]).toEqual([3, 1, 1]);
});
