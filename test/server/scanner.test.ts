import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { sql } from '#server/database/port.ts';
import { PracticeScanner } from '#server/scanner/scanner.ts';
import { bringBytes } from '#server/scans/bring.ts';
import { openSchool, PEOPLE, type School } from '../helpers/school.ts';

/** Stands in for the cutting thread: a file that says what was asked of it. */
const WORKER = `
export default async function scan(task) {
  await new Promise((r) => setTimeout(r, 80));
  if (task.student === 'H08') throw new Error('the camera was dropped');
  return new TextEncoder().encode(JSON.stringify(task));
}
`;
const { piet, greta, hugo } = PEOPLE;
const Scan = v.object({ id: v.number(), file_name: v.string(), sha256: v.string(), student_id: v.nullable(v.string()), state: v.string() });

let school: School;
let scanner: PracticeScanner;
let folder: string;
beforeAll(async () => {
  process.env.VERITOR_DEMO = 'yes';
  school = await openSchool();
  folder = mkdtempSync(path.join(tmpdir(), 'veritor-scanner-'));
  writeFileSync(path.join(folder, 'worker.mjs'), WORKER);
  scanner = new PracticeScanner(path.join(folder, 'worker.mjs'), school.app.db, (sitting, name, bytes, person) =>
    bringBytes(school.app, sitting, name, bytes, person),
  );
});
afterAll(async () => {
  delete process.env.VERITOR_DEMO;
  await scanner.stop();
  await school.close();
  rmSync(folder, { recursive: true, force: true });
});
const scans = () =>
  school.app.db.any(
    Scan,
    sql`select s.id, s.file_name, s.sha256, a.student_id, s.state from scan s left join attempt a on a.id = s.attempt_id order by s.id`,
  );
const arrived = async (): Promise<void> => {
  for (let i = 0; i < 200 && scanner.onTheWay('w1') > 0; i++) await pause(20);
};

describe('the simulated scanner', () => {
  it('sends a file into the tray that is named as one from the bench, and says that it is on its way', async () => {
    const started = await scanner.start('w1', greta.id, piet);
    expect(started).toEqual({ fileName: 'B1-07_H07_16_scan1.stl' });
    expect(scanner.onTheWay('w1')).toBe(1);
    expect(scanner.onTheWay('w2')).toBe(0);
    await arrived();
    const [scan] = await scans();
    expect(scan).toMatchObject({ file_name: 'B1-07_H07_16_scan1.stl', student_id: 'H07', state: 'arrived' });
    expect(school.queued).toEqual([scan.id]);
    // The first attempt of this student at this exercise was asked for.
    const reported = JSON.parse(new TextDecoder().decode(await school.app.files.read(scan.sha256)));
    expect(reported).toEqual({ kind: 'scan', exercise: 'crown-16', student: 'H07', attempt: 0 });
  });
  it('cuts the next attempt the next time', async () => {
    expect(await scanner.start('w1', greta.id, piet)).toEqual({ fileName: 'B1-07_H07_16_scan2.stl' });
    await arrived();
    expect((await scans()).map((s) => s.file_name)).toEqual(['B1-07_H07_16_scan1.stl', 'B1-07_H07_16_scan2.stl']);
  });
  it('that fails is no longer counted as coming, and the server continues', async () => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    await scanner.start('w1', hugo.id, piet);
    await arrived();
    expect(scanner.onTheWay('w1')).toBe(0);
    expect(String(log.mock.calls[0]?.[0])).toContain('the camera was dropped');
    log.mockRestore();
    expect(await scans()).toHaveLength(2);
  });
  it('refuses people of other courses, staff and other sittings', async () => {
    for (const [sitting, student] of [
      ['w1', 'H99'],
      ['w1', 'I2'],
      ['w9', 'H07'],
    ])
      expect(await scanner.start(sitting, student, piet)).toBeNull();
  });
});
