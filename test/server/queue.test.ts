import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Person } from '#server/access/sign-in.ts';
import { sql } from '#server/database/database.ts';
import { JobQueue } from '#server/jobs/queue.ts';
import { trayOf } from '#server/view/tray.ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

/** Stands in for the measuring thread and does what the scan's own text says, so that the queue alone is under test. */
const WORKER = `
import { readFileSync } from 'node:fs';
const wait = (ms) => new Promise((r) => setTimeout(r, ms));
export default async function run(task) {
  const [what, value] = readFileSync(task.scanFile, 'utf8').split(' ');
  task.progress.postMessage({ stage: 'align', share: 0.5 });
  await wait(what === 'slow' ? 60_000 : 60);
  if (what === 'faulty') return { ok: false, code: 'scan.unit', message: 'It seems to be in metres.' };
  if (what === 'broken') throw new Error('out of memory');
  const bytes = new TextEncoder().encode(task.kind);
  const readings = [
    { name: 'margin.width', zone: 'facial', stat: 'median', unit: 'mm', value: Number(value), U: 0.04, at: { azimuth: 10, point: [1, 2, 3] }, coverage: 1, samples: 90, reason: null },
    { name: 'toc.mean', zone: null, stat: 'mean', unit: 'deg', value: null, U: null, at: null, coverage: null, samples: 0, reason: 'no-wall' },
  ];
  return { ok: true, readings, alignment: { matrix: [], rms: 0.02, stableArea: 400, spread: 1, pointError: 0.004 }, curves: {},
    display: bytes, profiles: bytes, picture: bytes, durationMs: 60, peakMb: 200 };
}
`;

const Row = v.object({
  state: v.string(),
  fault_code: v.nullable(v.string()),
  fault_text: v.nullable(v.string()),
});
const Reading = v.object({ name: v.string(), value: v.nullable(v.number()), u: v.nullable(v.number()), reason: v.nullable(v.string()) });

let school: School;
let folder: string;
let queue: JobQueue;
beforeAll(async () => {
  school = await openSchool();
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-queue-'));
  writeFileSync(path.join(folder, 'worker.mjs'), WORKER);
});
afterAll(async () => {
  await school.close();
  rmSync(folder, { recursive: true, force: true });
});
beforeEach(() => {
  queue = newQueue();
});
afterEach(() => queue.stop());

const newQueue = (): JobQueue => new JobQueue(school.app.db, school.app.files, folder, path.join(folder, 'worker.mjs'));

/** A scan that has arrived, with the text that says what becomes of it. */
const arrived = async (text: string, student: Person = PEOPLE.greta): Promise<number> => (await school.arrived(student, text)).id;
const rowOf = (id: number) => school.app.db.one(Row, sql`select state, fault_code, fault_text from scan where id = ${id}`);
const readingsOf = (id: number) =>
  school.app.db.any(
    Reading,
    sql`select name, value, u, reason from reading where measurement_id = (select id from measurement where scan_id = ${id}) order by name`,
  );
async function until(what: () => Promise<boolean> | boolean): Promise<void> {
  for (let i = 0; i < 400; i++) {
    if (await what()) return;
    await pause(10);
  }
  throw new Error('it did not come to that');
}
const idle = () => until(() => queue.waiting === 0);

describe('a scan in the queue', () => {
  it('is measured, and its readings are kept with what each is sure of or why it is not given', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    await idle();
    expect(await rowOf(id)).toEqual({ state: 'measured', fault_code: null, fault_text: null });
    expect(await readingsOf(id)).toEqual([
      { name: 'margin.width', value: 0.61, u: 0.04, reason: null },
      { name: 'toc.mean', value: null, u: null, reason: 'no-wall' },
    ]);
  });

  it('shows how far it is while it is measured, and not after', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(async () => (await rowOf(id)).state === 'measuring');
    // A quarter for each of the four stages: half of the second is three eighths.
    expect(queue.progressOf(id)).toEqual({ stage: 'align', share: 0.375 });
    const [row] = await trayOf({ db: school.app.db, jobs: queue }, 'w1');
    expect(row).toMatchObject({ word: 'measuring', progress: { stage: 'align', share: 0.375 } });
    await queue.cancel(id);
    await idle();
    expect(queue.progressOf(id)).toBeNull();
  });

  it('that is cancelled stays so, says how to go on, and can be taken up again', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(() => queue.progressOf(id) !== null);
    await queue.cancel(id);
    await idle();
    const row = await rowOf(id);
    expect(row.state).toBe('cancelled');
    expect(row.fault_text).toContain('Try again');
    await school.app.db.run(
      sql`update scan set state = 'arrived', sha256 = (select sha256 from scan where id = ${await arrived('good 0.5')}) where id = ${id}`,
    );
    queue.add(id);
    await idle();
    expect((await rowOf(id)).state).toBe('measured');
  });

  it('that is tried again before its cancelling is through is measured all the same', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(() => queue.progressOf(id) !== null);
    const other = await arrived('good 0.4');
    const cancelled = queue.cancel(id);
    await school.app.db.run(
      sql`update scan set state = 'arrived', sha256 = (select sha256 from scan where id = ${other}) where id = ${id}`,
    );
    queue.add(id);
    await cancelled;
    await school.app.db.run(sql`update scan set state = 'arrived' where id = ${id} and state = 'cancelled'`);
    await idle();
    expect((await rowOf(id)).state).toBe('measured');
  });

  it('that cannot be used says why; one whose measuring broke down is kept and says so', async () => {
    const faulty = await arrived('faulty');
    const broken = await arrived('broken', PEOPLE.hugo);
    queue.add(faulty);
    queue.add(broken);
    await idle();
    expect(await rowOf(faulty)).toEqual({ state: 'failed', fault_code: 'scan.unit', fault_text: 'It seems to be in metres.' });
    const row = await rowOf(broken);
    expect([row.state, row.fault_code]).toEqual(['failed', 'internal']);
    expect(row.fault_text).toContain('out of memory');
    expect(row.fault_text).toContain('The scan is kept');
  });

  it('measured again has its new readings alone', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    await idle();
    const other = await arrived('good 0.72');
    await school.app.db.run(
      sql`update scan set state = 'arrived', sha256 = (select sha256 from scan where id = ${other}) where id = ${id}`,
    );
    queue.add(id);
    await idle();
    expect((await readingsOf(id)).map((r) => r.value)).toEqual([0.72, null]);
  });

  it('that is added twice is measured once', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    queue.add(id);
    expect(queue.waiting).toBe(1);
    await idle();
  });
});

describe('a server that stopped in the middle', () => {
  it('takes up what was under way and what waited, and leaves what nobody belongs to', async () => {
    const under = await arrived('good 0.61');
    const waited = await arrived('good 0.62', PEOPLE.hugo);
    const done = await arrived('faulty');
    const nobodys = await arrived('good 0.63');
    const { db } = school.app;
    await db.run(sql`update scan set state = 'measuring' where id = ${under}`);
    await db.run(sql`update scan set state = 'failed', fault_text = 'no' where id = ${done}`);
    await db.run(sql`update scan set attempt_id = null where id = ${nobodys}`);
    await queue.resume();
    await idle();
    const states = await Promise.all([under, waited, done, nobodys].map(async (id) => (await rowOf(id)).state));
    expect(states).toEqual(['measured', 'measured', 'failed', 'arrived']);
  });

  it('leaves what is cut off by its own stopping as it was', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(async () => (await rowOf(id)).state === 'measuring');
    await queue.stop();
    await idle();
    expect((await rowOf(id)).state).toBe('measuring');
    await school.app.db.run(
      sql`update scan set sha256 = (select sha256 from scan where id = ${await arrived('good 0.6')}) where id = ${id}`,
    );
    queue = newQueue();
    await queue.resume();
    await idle();
    expect((await rowOf(id)).state).toBe('measured');
  });
});
