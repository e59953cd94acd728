import { copyFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CROWN_16, type Running, simulated, start } from '../helpers/application.ts';
import { crawl } from '../helpers/crawl.ts';

let app: Running;

/** One crown, measured, signed and released: so that every list has something in it. */
beforeAll(async () => {
  const folder = simulated(CROWN_16);
  copyFileSync(path.join(folder, 'scan.stl'), path.join(folder, 'H07_crown.stl'));
  app = await start(folder);
  const page = await (await app.signedIn('ines')).newPage();
  await page.goto('/tray');
  await page.waitForSelector('astro-island:not([ssr])');
  await page.setInputFiles('input[type=file]', path.join(folder, 'H07_crown.stl'));
  await page.getByRole('link', { name: 'Grade', exact: true }).first().click({ timeout: 90_000 });
  const done = page.getByText('nothing in dispute');
  await page.waitForSelector('[data-total]');
  for (let i = 0; i < 12 && !(await done.isVisible()); i++) {
    await page.keyboard.press('Enter');
    await page.waitForTimeout(300);
  }
  await page.keyboard.press('s');
  await page.waitForSelector('[data-signed="1"]');
  await page.keyboard.press('r');
  await page.getByText(', released').waitFor();
  await page.close();
});
afterAll(() => app?.stop());

describe('every kind of page that somebody reaches by links, on a phone', () => {
  it.each([
    ['maren', 'the director', 17],
    ['piet', 'who looks after the scans', 3],
    ['h07', 'a student', 5],
  ] as const)(
    'of %s, %s, fits its width, and the accessibility checker objects to nothing',
    async (name, _, least) => {
      const { kinds, wrong } = await crawl(await app.signedIn(name), 390);
      expect(wrong).toEqual([]);
      expect(kinds.length, kinds.join(' ')).toBeGreaterThanOrEqual(least);
    },
    240_000,
  );
});
