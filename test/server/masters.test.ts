import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DraftView } from '#contract/master-draft.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { built, proposed, surveyed } from '#server/children/masters.ts';
import { TaskFault } from '#server/children/pool.ts';
import type { Task } from '#server/children/tasks.ts';
import { attemptById } from '#server/grading/rows.ts';
import { masterZip } from '#server/masters/finish.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, piet, greta } = PEOPLE;
let school: School;
let arch: Uint8Array;
let pulp: Uint8Array;
let touch: Vec3;
let attempt: number;

beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
  // The child's work is done on the spot; that children can be ended is tested with the pool.
  const run = async (task: Task) => {
    try {
      if (task.kind === 'survey') return await surveyed(task, FILE_LIMITS);
      if (task.kind === 'propose') return await proposed(task, FILE_LIMITS);
      if (task.kind === 'build') return await built(task, FILE_LIMITS);
    } catch (e) {
      if (e instanceof Fault) throw new TaskFault(e.code, e.message);
      throw e;
    }
    throw new Error(task.kind);
  };
  Object.assign(school.app, { children: { limits: FILE_LIMITS, run } });
  const { description, meshes } = new Workshop('16', 12, await solidKernel(), { name: 'x', caries: null }).master;
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
  touch = [0, 1, 2].map((k) => description.cusps.reduce((s, c) => s + c.at[k] / description.cusps.length, 0)) as [number, number, number];
}, 60_000);
afterAll(() => school.close());

const bring = (who: typeof piet | typeof STRANGER, content: Uint8Array | string, tooth = '16', name = 'Own series') => {
  const form = new FormData();
  form.set('name', name);
  form.set('tooth', tooth);
  form.append('mesh', new File([content as BlobPart], 'arch.stl'));
  form.append('role', 'arch');
  form.append('mesh', new File([pulp as BlobPart], 'pulp.stl'));
  form.append('role', 'pulp');
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
  }, 60_000);
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
  it('finished it stays as it is', async () => {
    const { status, answer } = await act(piet, '/finish', id, {});
    expect([status, answer.master]).toEqual([200, `own-${id}`]);
    const { bytes } = await masterZip(school.app, id);
    // The body inside went with it, in millimetres like the arch.
    expect(Object.keys(unzipSync(bytes)).sort()).toEqual(['arch.ply', 'master.json', 'pulp.ply']);
    expect((await act(piet, '/touch', id, { at: touch, mesialward: null })).status).toBe(409);
  }, 60_000);
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
});
