// The course's pages at three sizes, side by side, in docs/figures/course-sizes.png: node scripts/sizes.mjs [address]. Look at it afterwards.
import { writeFileSync } from 'node:fs';
import { chromium } from 'playwright-core';

const base = process.argv[2] ?? 'http://127.0.0.1:4321';
const SIZES = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];
/** px that each picture is high in the sheet. */
const HIGH = 420;
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
const open = (name) => (p) => p.getByRole('button', { name }).click();
const PAGES = [
  ['Today', '/', () => undefined],
  ['People', '/courses', () => undefined],
  ['Exercises and sittings', '/courses', open(/Exercises and sittings/)],
  ['Cutters', '/courses', open('Cutters, phrases, drills')],
  ['Standard', '/courses/preclinical-2-2026/standards/zirconia-posterior', () => undefined],
  ['Rubric', '/courses/preclinical-2-2026/rubrics/zirconia-posterior-practice', () => undefined],
  ['Gradebook', '/courses/preclinical-2-2026/gradebook', () => undefined],
  ['Settings', '/settings', () => undefined],
];
const rows = PAGES.map(([title]) => ({ title, shots: [] }));
for (const size of SIZES) {
  const context = await browser.newContext({ baseURL: base, viewport: size, reducedMotion: 'reduce' });
  const p = await context.newPage();
  await p.goto('/sign-in');
  await p.fill('#name', 'maren');
  await p.fill('#password', 'harbour-lane');
  await p.click('button.act');
  await p.waitForURL((u) => !u.pathname.startsWith('/sign-in'));
  for (const [i, [, path, act]] of PAGES.entries()) {
    await p.goto(path);
    await p.waitForTimeout(700);
    await act(p);
    await p.waitForTimeout(500);
    const wide = await p.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    if (wide > 0) console.log(`${PAGES[i][0]} is ${wide} px too wide at ${size.width}`);
    rows[i].shots.push((await p.screenshot()).toString('base64'));
  }
  await context.close();
}
const sheet = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await sheet.setContent(
  `<body style="margin:12px;font:16px sans-serif">${rows
    .map(
      ({ title, shots }) =>
        `<p style="margin:12px 0 4px">${title}</p><div style="display:flex;gap:12px">${shots
          .map((s) => `<img style="height:${HIGH}px;border:1px solid #999" src="data:image/png;base64,${s}">`)
          .join('')}</div>`,
    )
    .join('')}</body>`,
);
writeFileSync('docs/figures/course-sizes.png', await sheet.screenshot({ fullPage: true }));
await browser.close();
