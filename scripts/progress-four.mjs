// Four students of the running demo beside one another for docs/progress.md: node scripts/progress-four.mjs [address].
import { writeFileSync } from 'node:fs';
import { chromium } from 'playwright-core';
import { PNG } from 'pngjs';

const [base = 'http://127.0.0.1:4321'] = process.argv.slice(2);
/** Who improves, who does not, who has a habit, who judges their own work badly. */
const STUDENTS = ['H04', 'H05', 'H07', 'H09'];
const [W, H, SCALE] = [1280, 1500, 0.6];

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--enable-unsafe-swiftshader'],
});
const context = await browser.newContext({
  baseURL: base,
  viewport: { width: W, height: H },
  deviceScaleFactor: SCALE,
  reducedMotion: 'reduce',
});
const p = await context.newPage();
await p.goto('/sign-in');
await p.fill('#name', 'ines');
await p.fill('#password', 'harbour-lane');
await p.click('button.act');
await p.waitForURL((u) => !u.pathname.startsWith('/sign-in'));
const shots = [];
for (const s of STUDENTS) {
  await p.goto(`/trail/${s}`);
  await p.waitForTimeout(1500);
  shots.push(PNG.sync.read(await p.screenshot()));
}
await browser.close();
const { width, height } = shots[0];
const all = new PNG({ width: 2 * width, height: 2 * height });
shots.forEach((png, i) => {
  PNG.bitblt(png, all, 0, 0, width, height, (i % 2) * width, Math.floor(i / 2) * height);
});
writeFileSync('docs/figures/progress-four.png', PNG.sync.write(all));
