import { existsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FilePreview, TrayRow, UploadOutcome } from '#contract/tray-view.ts';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { TaskFault } from '#server/children/pool.ts';
import type { Task } from '#server/children/tasks.ts';
import { sql } from '#server/database/port.ts';
import { unzipped } from '../../src/files/archive.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const { ines, piet, greta, hugo } = PEOPLE;
const Stored = v.object({ sha256: v.string(), part_of: v.nullable(v.string()) });
let school: School;
beforeAll(async () => {
  school = await openSchool();
  // Unpacking itself is under test with the child process; here it happens on the spot.
  const run = async (task: Extract<Task, { kind: 'unpack' }>) => {
    const parts: unknown[] = [];
    try {
      const { readFileSync } = await import('node:fs');
      for await (const e of unzipped(readFileSync(task.archive), task.name, FILE_LIMITS)) {
        const file = path.join(task.outFolder, String(parts.length));
        writeFileSync(file, e.bytes);
        parts.push(e.name.endsWith('.txt') ? { name: e.name, left: 'It is no STL, PLY or OBJ.' } : { name: e.name, file });
      }
    } catch (e) {
      throw new TaskFault('file.archive', (e as Error).message);
    }
    return { parts };
  };
  Object.assign(school.app, { children: { limits: FILE_LIMITS, run } });
});
afterAll(() => school.close());

const send = async (...files: [string, string | Uint8Array, string?][]) => {
  const form = new FormData();
  for (const [name, content, student] of files) {
    form.append('scan', new File([content as BlobPart], name));
    form.append('student', student ?? '');
  }
  return (await school.call('/api/sittings/[id]/scans', piet, { id: 'w2' }, form)) as {
    status: number;
    answer: { files: UploadOutcome[]; message: string };
  };
};
const rows = async (who = ines as Parameters<School['call']>[1]): Promise<TrayRow[]> =>
  ((await school.call('/api/sittings/[id]/tray', who, { id: 'w2' })) as { answer: { rows: TrayRow[] } }).answer.rows;

describe('scans brought into a tray', () => {
  it('find their student and wait to be measured; the same content is not taken twice', async () => {
    const before = school.queued.length;
    const { answer } = await send(['B1-07_crown.stl', 'one'], ['H07 again.stl', 'one'], ['unknown.stl', 'two']);
    expect(answer.files.map((f) => [f.outcome, f.student])).toEqual([
      ['matched', 'Greta Pohl'],
      ['duplicate', 'Greta Pohl'],
      ['unmatched', null],
    ]);
    expect(school.queued.length).toBe(before + 1);
  });
  it('a second scan of an attempt is its next version', async () => {
    await send(['H07.stl', 'three']);
    expect((await rows()).filter((r) => r.student_id === 'H07').map((r) => r.version)).toEqual([2]);
  });
  it('are previewed with student and version', async () => {
    const names = ['H07.stl', 'H07 second.stl', 'H07_axial.stl', 'B1-08.stl', 'unknown.stl'];
    const { answer } = (await school.call('/api/sittings/[id]/preview', piet, { id: 'w2' }, { names })) as {
      answer: { files: FilePreview[] };
    };
    expect(answer.files.map((f) => [f.student, f.by, f.step, f.version])).toEqual([
      ['H07', 'number', 'final', 3],
      ['H07', 'number', 'final', 4],
      ['H07', 'number', 'axial', 1],
      ['H08', 'bench', 'final', 1],
      [null, null, 'final', 1],
    ]);
  });
  it('that name two students wait, with both names', async () => {
    const { answer } = await send(['H07 and H08.stl', 'of two']);
    expect(answer.files[0]).toMatchObject({ outcome: 'unmatched', student: null });
    expect(answer.files[0].message).toMatch(/several students: Greta Pohl and Hugo/);
    const id = answer.files[0].scanId;
    expect((await school.call('/api/scans/[id]/remove', piet, { id: String(id) }, {})).status).toBe(200);
  });

  it('go to the chosen student, whatever their name says', async () => {
    const { answer } = await send(['anything.stl', 'chosen', 'H08']);
    expect(answer.files[0]).toMatchObject({ outcome: 'matched', student: 'Hugo Lind' });
  });
  it('a sitting that is not there keeps no file', async () => {
    const form = new FormData();
    form.append('scan', new File(['lost'], 'H07.stl'));
    expect((await school.call('/api/sittings/[id]/scans', piet, { id: 'w9' }, form)).status).toBe(404);
  });
});

describe('an archive', () => {
  it('brings its scans, says what was left out, and is kept with its parts', async () => {
    const zip = zipSync({ 'folder/H08_a.stl': new Uint8Array([1, 2, 3]), 'notes.txt': new Uint8Array([65]) });
    const { answer } = await send(['all.zip', zip]);
    expect(answer.files.map((f) => [f.fileName, f.outcome])).toEqual([
      ['H08_a.stl', 'matched'],
      ['notes.txt', 'refused'],
    ]);
    expect(answer.files[1].message).toContain('left out');
    const stored = await school.app.db.any(Stored, sql`select sha256, part_of from stored_file where part_of is not null`);
    expect(stored).toHaveLength(1);
    expect((await school.app.files.read(stored[0].part_of as string)).length).toBe(zip.length);
  });
  it('never takes an original away because it holds the same bytes', async () => {
    const original = new Uint8Array([9, 8, 7, 6]);
    await send(['H07_original.stl', original]);
    await send(['copies.zip', zipSync({ 'H08_copy.stl': original })], ['copies again.zip', zipSync({ 'H08_copy.stl': original })]);
    const scan = (await rows()).find((r) => r.file_name === 'H07_original.stl');
    expect(scan).toBeDefined();
    const kept = await school.app.files.keep(original);
    expect(await school.app.files.read(kept.sha256)).toEqual(Buffer.from(original));
  });
  it('that cannot be opened is refused by name, and so is an empty file', async () => {
    const broken = await send(['bad.zip', new Uint8Array([0x50, 0x4b, 9, 9, 9])]);
    expect(broken.answer.files[0]).toMatchObject({ outcome: 'refused', message: expect.stringContaining('bad.zip') });
    expect((await send()).status).toBe(400);
  });
});

describe('a scan that matched nobody', () => {
  const assign = (student: string) =>
    rows()
      .then((all) => all.find((r) => r.attempt_id === null)?.scan_id)
      .then(
        (id) =>
          school.call('/api/scans/[id]/assign', piet, { id: String(id) }, { student }) as Promise<{
            status: number;
            answer: { message: string };
          }>,
      );
  it('is not given to an instructor, nor to somebody who is not there', async () => {
    for (const student of ['I2', 'D1', 'H99']) expect((await assign(student)).status).toBe(404);
  });
  it('is given to a student by hand', async () => {
    const before = school.queued.length;
    expect((await assign(hugo.id)).status).toBe(200);
    expect(school.queued.length).toBe(before + 1);
    expect((await rows()).filter((r) => r.attempt_id === null)).toHaveLength(0);
  });
  it('three points in a line do not align it', async () => {
    const point = (x: number) => ({ scan: [x, 0, 0], master: [x, 0, 0] });
    const r = await school.call('/api/scans/[id]/pose', piet, { id: '1' }, { pairs: [point(0), point(1), point(2)] });
    expect(r.status).toBe(422);
  });
});

describe('the size of a scan', () => {
  const Scan = v.object({ id: v.number(), too_large_by: v.nullable(v.number()), sized_by: v.nullable(v.string()), state: v.string() });
  const scanOf = (attempt: number) =>
    school.app.db.one(Scan, sql`select id, too_large_by, sized_by, state from scan where attempt_id = ${attempt}`);
  it('is corrected only when a person says so, by what was measured, and can be taken back', async () => {
    const attempt = await school.measured(hugo, SOUND);
    const { id } = await scanOf(attempt);
    const correct = (who: typeof ines | typeof hugo, yes: boolean) =>
      school.call('/api/scans/[id]/size', who, { id: String(id) }, { correct: yes });
    expect((await correct(ines, true)).status).toBe(409);
    const cols =
      'scan_sha256, master_sha256, kind, core_version, duration_ms, peak_mb, curves, display_sha256, profiles_sha256, picture_sha256';
    await school.app.db.exec(
      `insert into measurement (scan_id, alignment, ${cols}) select scan_id, alignment || '{"size": {"factor": 1.015, "u": 0.0005}}'::jsonb, ${cols} from measurement where scan_id = ${id}`,
    );
    expect((await correct(hugo, true)).status).toBe(403);
    expect((await scanOf(attempt)).too_large_by).toBeNull();
    expect((await correct(ines, true)).status).toBe(200);
    expect(await scanOf(attempt)).toMatchObject({ too_large_by: 1.015, sized_by: ines.id, state: 'arrived' });
    await school.app.db.run(sql`update scan set state = 'measured' where id = ${id}`);
    expect((await correct(ines, false)).status).toBe(200);
    expect((await scanOf(attempt)).too_large_by).toBeNull();
  });
});

describe('a tray', () => {
  it('answers 304 to its current ETag', async () => {
    const first = await school.call('/api/sittings/[id]/tray', ines, { id: 'w2' });
    const tag = first.headers.get('etag') as string;
    const again = () => school.call('/api/sittings/[id]/tray', ines, { id: 'w2' }, undefined, { 'if-none-match': tag });
    expect((await again()).status).toBe(304);
    await send(['H07_more.stl', 'more']);
    expect((await again()).status).toBe(200);
  });
  it('shows assistants no scores, not even of what is signed', async () => {
    const attempt = await school.measured(greta, SOUND);
    const tray = async (who: typeof ines | typeof piet) =>
      ((await school.call('/api/sittings/[id]/tray', who, { id: 'w1' })) as { answer: { rows: TrayRow[] } }).answer.rows.find(
        (r) => r.attempt_id === attempt,
      );
    const { seen } = (await tray(ines)) as TrayRow;
    await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen });
    expect(await tray(ines)).toMatchObject({ word: 'signed', grade_total: 100, total: 100 });
    expect(await tray(piet)).toMatchObject({
      word: 'signed',
      grade_total: null,
      grade_passed: null,
      total: null,
      passed: null,
      range: null,
      counts: null,
      failures: [],
      seen: null,
    });
  });
});

describe('a scan in the wrong place', () => {
  // A school of its own: nothing is signed there yet.
  let other: School;
  beforeAll(async () => {
    other = await openSchool();
  });
  afterAll(() => other.close());
  const Graded = v.object({ measurement_id: v.number() });
  const On = v.object({ action: v.string() });
  const graded = (attempt: number) =>
    other.app.db.maybeOne(Graded, sql`select measurement_id from graded_now where attempt_id = ${attempt}`);
  const scanOf = async (attempt: number) =>
    (await other.app.db.one(v.object({ id: v.number() }), sql`select id from scan where attempt_id = ${attempt} order by id desc limit 1`))
      .id;
  const tray = async (): Promise<TrayRow[]> =>
    ((await other.call('/api/sittings/[id]/tray', ines, { id: 'w1' })) as { answer: { rows: TrayRow[] } }).answer.rows;

  it('that is moved takes its measurement along: the first student is not graded on another’s tooth', async () => {
    const attempt = await other.measured(greta, SOUND);
    const before = await graded(attempt);
    expect(before).not.toBeNull();
    const id = await scanOf(attempt);
    expect((await other.call('/api/scans/[id]/assign', piet, { id: String(id) }, { student: hugo.id })).status).toBe(200);
    expect(await graded(attempt)).toBeNull();
  });
  it('that is taken out leaves the tray and the grade; row and file stay, the act is written down, and it may come again', async () => {
    const attempt = await other.measured(greta, SOUND);
    const id = await scanOf(attempt);
    expect((await other.call('/api/scans/[id]/remove', piet, { id: String(id) }, {})).status).toBe(200);
    expect(await graded(attempt)).toBeNull();
    expect((await tray()).map((r) => r.scan_id)).not.toContain(id);
    const kept = await other.app.db.one(v.object({ sha256: v.string() }), sql`select sha256 from scan where id = ${id}`);
    expect(existsSync(other.app.files.pathOf(kept.sha256))).toBe(true);
    expect(await other.app.db.one(On, sql`select action from audit order by id desc limit 1`)).toEqual({ action: 'scan.remove' });
  });
  it('stays where a signed grade rests on it', async () => {
    const attempt = await other.measured(hugo, SOUND);
    const { answer } = (await other.call('/api/attempts/[id]/judge', ines, { id: String(attempt) }, { none: 'critical' })) as {
      answer: { seen: string };
    };
    expect((await other.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen: answer.seen })).status).toBe(200);
    const id = await scanOf(attempt);
    for (const [act, payload] of [
      ['/api/scans/[id]/remove', {}],
      ['/api/scans/[id]/assign', { student: greta.id }],
    ] as const)
      expect((await other.call(act, piet, { id: String(id) }, payload)).status).toBe(409);
  });
});
