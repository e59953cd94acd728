import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import type { Person } from '#server/access/table.ts';
import { ChildPool } from '#server/children/pool.ts';
import { sql } from '#server/database/port.ts';
import { JobQueue } from '#server/scans/queue.ts';
import { trayOf } from '#server/view/tray.ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

/** Replaces the measuring child and does what the scan's text says, so that only queue and pool are under test. */
const WORKER = `
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
const wait = (ms) => new Promise((r) => setTimeout(r, ms));
process.on('message', async ({ id, task }) => {
  const [what, value] = readFileSync(task.scanFile, 'utf8').split(' ');
  process.send({ id, stage: 'align', share: 0.5 });
  await wait(what === 'slow' ? 60_000 : 60);
  if (what === 'hang') for (;;) {}
  if (what === 'dies') process.exit(134);
  if (what === 'grows') { const held = []; for (;;) held.push(new Uint8Array(100e6).fill(1)) && await wait(5); }
  if (what === 'faulty') return process.send({ id, fault: { code: 'scan.unit', message: 'It seems to be in metres.' } });
  const put = (name) => { const file = path.join(task.outFolder, name); writeFileSync(file, name + task.preparation); return file; };
  const readings = [
    { name: 'margin.width', zone: 'facial', stat: 'median', unit: 'mm', value: Number(value), U: 0.04, at: { azimuth: 10, point: [1, 2, 3] }, coverage: 1, samples: 90, reason: null },
    { name: 'toc.mean', zone: null, stat: 'mean', unit: 'deg', value: null, U: null, at: null, coverage: null, samples: 0, reason: 'no-wall' },
  ];
  if (task.abutment) readings.push({ name: 'abutments.parallel', zone: null, stat: 'value', unit: 'deg', value: readFileSync(task.abutment.masterFile).length, U: 0.9, at: { azimuth: 90 }, coverage: null, samples: 1, reason: null });
  process.send({ id, result: { readings, alignment: { matrix: [], rms: 0.02, stableArea: 400, spread: 1, pointError: 0.004 }, curves: {},
    display: put('display'), profiles: put('profiles'), picture: put('picture'), durationMs: 60, peakMb: 200 } });
});
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
let pool: ChildPool;
/** Whether scans may take their time. */
let slow = true;
beforeAll(async () => {
  school = await openSchool();
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-queue-'));
  writeFileSync(path.join(folder, 'worker.mjs'), WORKER);
  const kept = await school.app.files.keep(new TextEncoder().encode('master'));
  await school.app.db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, 6)`);
  await school.app.db.run(sql`update master set file_sha256 = ${kept.sha256}`);
});
afterAll(async () => {
  await school.close();
  rmSync(folder, { recursive: true, force: true });
});
beforeEach(() => {
  queue = newQueue();
});
afterEach(async () => {
  queue.stop();
  await pool.stop();
});

/** Limits short enough for a test. */
const LIMITS = { ...FILE_LIMITS, seconds: 1.2, memoryBytes: 400e6 };
const newQueue = (): JobQueue => {
  pool = new ChildPool(path.join(folder, 'worker.mjs'), 2, slow ? FILE_LIMITS : LIMITS);
  return new JobQueue(school.app.db, school.app.records, school.app.files, pool);
};

/** A scan that has arrived; its text says what the child does. */
const arrived = async (text: string, student: Person = PEOPLE.greta): Promise<number> => (await school.arrived(student, text)).id;
const rowOf = (id: number) => school.app.db.one(Row, sql`select state, fault_code, fault_text from scan where id = ${id}`);
const readingsOf = (id: number) =>
  school.app.db.any(
    Reading,
    sql`select name, value, u, reason from reading where measurement_id = (select max(id) from measurement where scan_id = ${id}) order by name`,
  );
async function until(what: () => Promise<boolean> | boolean): Promise<void> {
  for (let i = 0; i < 1500; i++) {
    if (await what()) return;
    await pause(10);
  }
  throw new Error('it did not come to that');
}
const idle = () => until(() => queue.waiting === 0);

describe('a scan in the queue', () => {
  it('is measured, and its readings are stored with U or a reason', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    await idle();
    expect(await rowOf(id)).toEqual({ state: 'measured', fault_code: null, fault_text: null });
    expect(await readingsOf(id)).toEqual([
      { name: 'margin.width', value: 0.61, u: 0.04, reason: null },
      { name: 'toc.mean', value: null, u: null, reason: 'no-wall' },
    ]);
  });

  it('of two abutments is measured against both masters, and it is kept which the other one was', async () => {
    const { db, files } = school.app;
    const other = await files.keep(new TextEncoder().encode('the other master'));
    await db.run(sql`insert into stored_file (sha256, size_bytes) values (${other.sha256}, 16)`);
    await db.run(
      sql`insert into master (id, name, tooth, description, file_sha256) select 'beside', name, '14', description, ${other.sha256} from master limit 1`,
    );
    await db.run(
      sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id) select 'beside', course_id, 'Premolar', '14', 'partial', 'beside', rubric_version_id from exercise limit 1`,
    );
    await db.run(sql`update exercise set abutment = 'beside' where id = 'crown-16'`);
    const id = await arrived('good 0.62');
    queue.add(id);
    await idle();
    // The child says how long the other master's file is.
    expect(await readingsOf(id)).toContainEqual({ name: 'abutments.parallel', value: 16, u: 0.9, reason: null });
    const kept = await db.one(
      v.object({ master_sha256: v.string(), kind: v.string() }),
      sql`select b.master_sha256, b.kind from measured_beside b join measurement m on m.id = b.measurement_id where m.scan_id = ${id}`,
    );
    expect(kept).toEqual({ master_sha256: other.sha256, kind: 'partial' });
    await db.run(sql`update exercise set abutment = null`);
  });

  it('shows its progress while it is measured, and not afterwards', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(async () => (await rowOf(id)).state === 'measuring');
    // A quarter for each of the four stages: half of the second is three eighths.
    expect(queue.progressOf(id)).toEqual({ stage: 'align', share: 0.375 });
    const [row] = await trayOf({ db: school.app.db, jobs: queue }, 'w1', PEOPLE.ines, 'c1');
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

  it('that is retried before its cancelling is done is measured all the same', async () => {
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

  it('that cannot be used says why', async () => {
    const id = await arrived('faulty');
    queue.add(id);
    await idle();
    expect(await rowOf(id)).toEqual({ state: 'failed', fault_code: 'scan.unit', fault_text: 'It seems to be in metres.' });
  });

  it('measured again has another measurement; the first one stays as it was', async () => {
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
    const all = await school.app.db.any(
      v.object({ value: v.nullable(v.number()) }),
      sql`select r.value from reading r join measurement m on m.id = r.measurement_id where m.scan_id = ${id} and r.name = 'margin.width' order by m.id`,
    );
    expect(all.map((r) => r.value)).toEqual([0.61, 0.72]);
  });

  it('whose second measuring fails keeps its first measurement', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    await idle();
    await school.app.db.run(
      sql`update scan set state = 'arrived', sha256 = (select sha256 from scan where id = ${await arrived('faulty')}) where id = ${id}`,
    );
    queue.add(id);
    await idle();
    expect(await rowOf(id)).toMatchObject({ state: 'measured', fault_code: 'scan.unit' });
    expect((await readingsOf(id)).map((r) => r.value)).toEqual([0.61, null]);
  });

  it('that is added twice is measured once', async () => {
    const id = await arrived('good 0.61');
    queue.add(id);
    queue.add(id);
    expect(queue.waiting).toBe(1);
    await idle();
  });
});

describe('a file that brings its child process down', () => {
  beforeAll(() => {
    slow = false;
  });
  afterAll(() => {
    slow = true;
  });
  it.each([
    ['hangs', 'hang', /more than 1\.2 s/],
    ['dies', 'dies', /ended by itself/],
    ['takes all memory', 'grows', /GB of memory/],
  ])('one that %s is tried twice, then put aside with a sentence; the next one is measured', async (_, text, why) => {
    const bad = await arrived(`${text} ${Math.random()}`);
    const good = await arrived(`good 0.${Math.floor(100 * Math.random()) + 100}`, PEOPLE.hugo);
    queue.add(bad);
    queue.add(good);
    await idle();
    const row = await rowOf(bad);
    expect([row.state, row.fault_code]).toEqual(['failed', 'file.unreadable']);
    expect(row.fault_text).toMatch(why);
    const { tries, aside } = await school.app.db.one(
      v.object({ tries: v.number(), aside: v.boolean() }),
      sql`select tries, is_quarantined as aside from scan where id = ${bad}`,
    );
    expect([tries, aside]).toEqual([2, true]);
    expect((await rowOf(good)).state).toBe('measured');
  });
});

describe('a server that stopped in the middle', () => {
  it('restarts running and waiting scans, and leaves scans without a student', async () => {
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

  it('leaves scans interrupted by its own stop unchanged', async () => {
    const id = await arrived('slow');
    queue.add(id);
    await until(async () => (await rowOf(id)).state === 'measuring');
    queue.stop();
    await pool.stop();
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
