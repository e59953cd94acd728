import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readScan } from '#core/scan/scan.ts';
import { writeStl } from '#core/simulate/write.ts';
import { CROWN_16, type Running, simulated, start } from '../helpers/application.ts';
import { objections } from '../helpers/crawl.ts';

let app: Running;
let folder: string;
let director: BrowserContext;
let page: Page;
const complaints: string[] = [];
let clicks = 0;
const began = { at: 0 };

beforeAll(async () => {
  folder = simulated(CROWN_16);
  // A school's own arch is a bare surface: no labels, no marks, no axis.
  const arch = readScan(readFileSync(path.join(folder, 'master', 'arch.ply')));
  writeFileSync(path.join(folder, 'arch.stl'), writeStl(arch.mesh));
  writeFileSync(path.join(folder, 'opposing.stl'), writeStl(readScan(readFileSync(path.join(folder, 'master', 'opposing.ply'))).mesh));
  writeFileSync(path.join(folder, 'H07_crown.stl'), readFileSync(path.join(folder, 'scan.stl')));
  app = await start(folder);
  director = await app.signedIn('maren');
  page = await director.newPage();
  page.on('console', (m) => {
    if (m.type() === 'error' && !/THREE\.Clock|GPU stall|status of 4/.test(m.text())) complaints.push(m.text());
  });
  page.on('pageerror', (e) => complaints.push(e.message));
});
afterAll(() => app?.stop());

const click = async (name: string | RegExp): Promise<void> => {
  clicks++;
  await page.getByRole('button', { name }).click();
};

describe('from a bare STL to a graded attempt', () => {
  it('refuses what is no arch with a way out', async () => {
    await page.goto('/masters');
    const answer = await page.evaluate(async () => {
      const form = new FormData();
      form.set('name', 'Nothing');
      form.set('tooth', '16');
      form.append('mesh', new File(['solid nothing'], 'nothing.stl'));
      const course = document.querySelector('form[aria-label="Bring an arch"]') ? 'preclinical-2-2026' : '';
      const r = await fetch(`/api/courses/${course}/masters`, { method: 'POST', body: form });
      return { status: r.status, message: (await r.json()).message as string };
    });
    expect(answer.status).toBe(422);
    expect(answer.message).toMatch(/STL|triangle/);
  });
  it('brings the arch and is told what it is like', async () => {
    began.at = Date.now();
    await page.setInputFiles('input[name=arch]', path.join(folder, 'arch.stl'));
    await page.setInputFiles('input[name=opposing]', path.join(folder, 'opposing.stl'));
    await page.fill('input[name=name]', 'Upper first molar, own series');
    await page.fill('input[name=tooth]', '16');
    await click('Bring an arch');
    await page.waitForURL(/\/masters\/./, { timeout: 60_000 });
    await page.waitForSelector('[data-drawn]', { timeout: 60_000 });
    expect(await page.getByText('One piece.').isVisible()).toBe(true);
  });
  it('one touch proposes parts and landmarks', async () => {
    const box = await page.locator('canvas').boundingBox();
    if (!box) throw new Error('no canvas');
    clicks++;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await page.waitForSelector('[aria-label=Checklist]', { timeout: 60_000 });
    expect(await page.getByRole('button', { name: /Long axis/ }).textContent()).toMatch(/sure/);
    expect(await objections(page)).toEqual([]);
  }, 90_000);
  it('a point is moved by keyboard, taken back, and kept', async () => {
    await page.getByRole('button', { name: /Cusp tips/ }).click();
    await page.getByRole('button', { name: 'MB (non-functional)' }).click();
    await page.keyboard.press('ArrowRight');
    await page.getByText('Not kept yet').waitFor();
    await page.getByText('Kept', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('Not kept yet').waitFor();
    await page.getByText('Kept', { exact: true }).waitFor();
  });
  it('what bites against it is looked at and moved along', async () => {
    await click('Bite');
    await page.getByText(/They touch at/).waitFor({ timeout: 60_000 });
    await page.getByText(/Here the jaws/).waitFor({ timeout: 30_000 });
    await page.getByLabel('Along it').fill('1');
    await page.getByText('2.0 mm').waitFor();
  }, 120_000);
  it('is proved by a crown that is cut into it and measured', async () => {
    await click('Proof');
    await click('Try a crown in it');
    const said = page.getByText(/readings say what was cut/);
    await said.waitFor({ timeout: 90_000 });
    const [, agree, all] = /(\d+) of (\d+)/.exec(((await said.textContent()) ?? '').replace(/^All (\d+)/, '$1 of $1')) ?? [];
    expect(Number(agree) / Number(all)).toBeGreaterThan(0.9);
  }, 120_000);
  it('is finished, and the exercise measures on it', async () => {
    await click('Finish this master');
    await page.getByText('Finished.').waitFor({ timeout: 60_000 });
    await page.getByLabel('Exercise').selectOption('crown-16');
    await click('Measure this exercise on it');
    await page.getByRole('status').waitFor();
    const zip = await page.request.get(`/api/masters/${page.url().split('/').pop()}/archive`);
    expect(zip.headers()['content-type']).toBe('application/zip');
  });
  it('a scan that comes now is measured on it and opens on the Bench', async () => {
    const sitting = 'crown-16-w6';
    const sent = await page.request.post(`/api/sittings/${sitting}/scans`, {
      multipart: {
        scan: { name: 'H07_crown.stl', mimeType: 'model/stl', buffer: readFileSync(path.join(folder, 'H07_crown.stl')) },
        student: 'H07',
      },
      headers: { origin: app.base },
    });
    expect(sent.ok()).toBe(true);
    type Row = {
      file_name: string;
      state: string;
      attempt_id: number;
      counts: { none: number; inside: number } | null;
      fault: string | null;
    };
    let row: Row | undefined;
    for (let i = 0; i < 240 && row?.state !== 'measured'; i++) {
      const rows = (await (await page.request.get(`/api/sittings/${sitting}/tray`)).json()) as { rows?: Row[] } | Row[];
      row = (Array.isArray(rows) ? rows : (rows.rows ?? [])).find((r) => r.file_name === 'H07_crown.stl');
      if (row?.state === 'failed') throw new Error(row.fault ?? 'failed');
      await page.waitForTimeout(500);
    }
    expect(row?.state).toBe('measured');
    expect(row?.counts?.inside).toBeGreaterThan(8);
    clicks++;
    await page.goto(`/bench/${row?.attempt_id}`);
    await page.waitForSelector('[data-drawn]', { timeout: 60_000 });
    // What could not be decided is confirmed line by line, then it is signed.
    clicks++;
    await page.keyboard.press('z');
    for (let i = 0; i < 20 && !(await page.getByText('nothing in dispute').isVisible()); i++) {
      clicks++;
      await page.keyboard.press('Enter');
      await page.waitForTimeout(250);
    }
    clicks++;
    await page.keyboard.press('s');
    await page.waitForSelector('[data-signed="1"]', { timeout: 15_000 });
    process.stdout.write(
      `from a bare STL to the graded attempt, a trial crown on the way: ${clicks} clicks and keys, ${((Date.now() - began.at) / 1000).toFixed(0)} s\n`,
    );
    expect(complaints).toEqual([]);
  }, 180_000);
});
