import { copyFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { BrowserContext, Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CLEAN_PREFORMED } from '#core/simulate/preformed/recipe.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { CROWN_16, type Running, simulated, start } from '../helpers/application.ts';
import { objections } from '../helpers/crawl.ts';

let app: Running;
let student: BrowserContext;
let phone: Page;
let desk: Page;
let finished: string;
let short: string;
let deep: string;
const complaints: string[] = [];
const picture = { name: 'step.png', mimeType: 'image/png', buffer: PNG.sync.write(new PNG({ width: 3000, height: 2000 })) };

beforeAll(async () => {
  const folder = simulated(CROWN_16);
  const { tooth, seed } = CROWN_16;
  // The same tooth after its occlusal reduction: once too little is gone, once enough.
  const shop = new Workshop(tooth, seed, await solidKernel());
  [short, deep] = [0.6, 1.25].map((mm, i) => {
    const preparation = { ...CLEAN_PREFORMED, occlusal: mm, mesial: null, distal: null };
    const { scan } = shop.cut(
      { preparation, neighbourDamage: { mesial: 0, distal: 0 }, scan: { ...defaultRecipe(tooth, seed).scan, triangles: 60_000 } },
      i,
    );
    const file = path.join(folder, `step-${i}.stl`);
    writeFileSync(file, writeStl(scan.mesh));
    return file;
  });
  finished = path.join(folder, 'H12_crown.stl');
  copyFileSync(path.join(folder, 'scan.stl'), finished);
  app = await start(folder);
  student = await app.signedIn('h12');
  phone = await student.newPage();
  await phone.setViewportSize({ width: 390, height: 844 });
  desk = await (await app.signedIn('ines')).newPage();
  for (const p of [phone, desk]) {
    p.on('console', (m) => {
      if (m.type() === 'error' && !/THREE\.Clock|GPU stall|status of 4|ERR_INTERNET_DISCONNECTED/.test(m.text())) complaints.push(m.text());
    });
    p.on('pageerror', (e) => complaints.push(e.message));
  }
});
afterAll(() => app?.stop());

/** Nothing that the accessibility checker objects to, and nothing wider than the screen. */
async function clean(p: Page): Promise<void> {
  expect(await objections(p)).toEqual([]);
  const { width } = p.viewportSize() as { width: number };
  expect(await p.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
}
const step = (id: string) => phone.waitForSelector(`[data-at-step="${id}"]`);
const press = (name: string) => phone.getByRole('button', { name, exact: true }).click();
async function done(id: string): Promise<void> {
  await step(id);
  await press('Start');
  await press('Step done');
}
const bring = async (file: string, decision: string): Promise<void> => {
  await phone.setInputFiles('input[accept^=".stl"]', file);
  await phone.waitForSelector(`[data-decision="${decision}"]`, { timeout: 90_000 });
};

describe('from the plan to the finished work', () => {
  it('the plan says how, and the dry run shows what a tilted hand does to it', async () => {
    await phone.goto('/plan/crown-16');
    await phone.getByRole('heading', { name: /^Plan: / }).waitFor();
    await clean(phone);
    await phone.locator('[data-step="axial"] > button').click();
    await phone.getByText(/Hold the cutter by the tooth/).waitFor();
    await phone.getByLabel(/^Tilt added/).fill('8');
    await press('Cut');
    await phone.waitForSelector('[data-dry="final"] [data-drawn]', { state: 'attached', timeout: 90_000 });
    const toc = phone.locator('tr', { hasText: 'Convergence, facial to lingual' });
    expect(await toc.locator('svg').first().getAttribute('aria-label')).toBe('outside');
    expect((await phone.request.get('/api/exercises/crown-16/plan?as=pdf')).headers()['content-type']).toBe('application/pdf');
  }, 150_000);

  it('the card keeps what is noted while the connection is gone, and sends it once', async () => {
    const attempt = await phone.evaluate(
      async () => (await (await fetch('/api/sittings/crown-16-w6/begin', { method: 'POST' })).json()).attempt as number,
    );
    await phone.goto('/work');
    await phone.locator(`a[href="/work/${attempt}/bench"]`).click();
    await step('depth-cuts');
    await clean(phone);
    await press('Start');
    await student.setOffline(true);
    await phone.getByLabel('Passes, mm').fill('1');
    await phone.getByLabel('Not, mm').fill('1,5');
    await phone.getByLabel('Where').fill('MB');
    await press('Note it');
    await phone.getByText('gauge, MB, passes 1.0, not 1.5').waitFor();
    await phone.setInputFiles('input[capture]', picture);
    await phone.locator('[data-photo-waits="yes"] img').waitFor();
    await press('Step done');
    await phone.getByText(/No connection: \d entries are kept/).waitFor();
    await student.setOffline(false);
    await phone.locator('[data-waiting]').waitFor({ state: 'detached', timeout: 20_000 });
    await phone.reload();
    await step('occlusal');
    await press('Back');
    await step('depth-cuts');
    expect(await phone.getByText('gauge, MB, passes 1.0, not 1.5').count()).toBe(1);
    await phone.locator('[data-photo] img').waitFor({ timeout: 20_000 });
    expect(await phone.locator('[data-photo] img, [data-photo-waits]').count()).toBe(1);
    await clean(phone);
    await press('Next');
  });

  it('a step that is short says how much is to be cut; corrected it goes on, with an instructor’s word', async () => {
    await done('occlusal');
    await done('functional-bevel');
    await step('check-occlusion');
    await press('Start');
    await bring(short, 'correct');
    await phone.getByText('cut more:').first().waitFor();
    await phone.getByText('Correct this first').waitFor();
    await clean(phone);
    await phone.setInputFiles('input[accept^=".stl"]', deep);
    await phone.waitForFunction(
      () => ['go-on', 'look'].includes(document.querySelector('[data-decision]')?.getAttribute('data-decision') ?? ''),
      undefined,
      { timeout: 90_000 },
    );
    await phone.getByText('cut more:').first().waitFor({ state: 'detached' });
    await press('Step done');
    await step('axial');
    expect(await phone.getByRole('button', { name: 'Start' }).isDisabled()).toBe(true);
    await press('Back');
    await phone.setInputFiles('input[capture]', picture);
    await phone.locator('[data-photo] img').waitFor();
    await press('Ask for a look');
    await phone.getByText('Your instructor sees that you ask').waitFor();
    await desk.goto('/looks');
    const line = desk.locator('[data-asked="H12"]');
    await line.waitFor();
    await line.locator('img').waitFor();
    await clean(desk);
    await line.getByRole('button', { name: 'Go on' }).click();
    await line.waitFor({ state: 'detached' });
    await phone.getByText('Go on (IC)').waitFor({ timeout: 20_000 });
    await press('Next');
    await step('axial');
    await press('Start');
    await phone.getByRole('button', { name: 'Pause' }).waitFor();
  }, 240_000);

  it('on the Bench the plan stands beside what was read of the finished work, and how it was done', async () => {
    await desk.goto('/tray');
    await desk.setInputFiles('input[type=file]', finished);
    const row = desk.locator('tr[data-scan]', { hasText: 'H12' });
    await desk.waitForFunction(
      () =>
        [...document.querySelectorAll('tr[data-scan]')].some(
          (r) => /H12/.test(r.textContent ?? '') && /eye|ready/.test((r as HTMLElement).dataset.state ?? ''),
        ),
      undefined,
      { timeout: 120_000 },
    );
    await row
      .locator('a', { hasText: /Grade|Open/ })
      .first()
      .click();
    await desk.waitForSelector('[data-total]');
    await desk.getByRole('button', { name: 'Against the plan' }).click();
    await desk.waitForSelector('[data-planned="there"]');
    await desk.getByText('Depth cuts:').waitFor();
    expect(await desk.locator('[data-planned] tbody tr').count()).toBeGreaterThan(8);
    expect(await desk.locator('[data-planned] img').count()).toBe(2);
    await clean(desk);
  }, 180_000);
  it('no page logged an error', () => expect(complaints).toEqual([]));
});
