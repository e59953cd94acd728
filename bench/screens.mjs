// Seconds and milliseconds of the screens, in Debian's Chromium with software rendering: npm run bench:screens -- http://127.0.0.1:4321 [sitting]
import { chromium } from 'playwright-core';

const [base, sitting = 'crown-16-w6'] = process.argv.slice(2);
if (!base) {
  process.stderr.write('Say where the demo runs: npm run bench:screens -- http://127.0.0.1:4321\n');
  process.exit(2);
}
const ROWS = 2000;
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await context.newPage();
await page.goto(`${base}/sign-in`);
await page.getByLabel('Name').fill('ines');
await page.getByLabel('Password').fill('harbour-lane');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForURL(/tray/);
const say = (what, figures) => process.stdout.write(`| ${what} | ${figures} |\n`);
const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(q * list.length))];
const spread = (list) => `median ${quantile(list, 0.5).toFixed(0)} ms, 95 % ${quantile(list, 0.95).toFixed(0)} ms, of ${list.length}`;
process.stdout.write('| what | how long |\n|---|---|\n');

/** From asking for the page to the first picture with triangles in it. */
await page.goto(`${base}/tray/${sitting}`);
const benches = await page.locator('a[href^="/bench/"]').evaluateAll((all) => all.map((a) => a.getAttribute('href')));
const loads = [];
const fetched = [];
for (const href of benches.slice(0, 5)) {
  const start = Date.now();
  await page.goto(base + href);
  await page.waitForSelector('[data-drawn]', { timeout: 60_000 });
  loads.push(Date.now() - start);
  fetched.push(
    await page.evaluate(() => {
      const e = performance.getEntriesByType('resource').find((r) => r.name.includes('/display'));
      return { ms: e.duration, kb: e.encodedBodySize / 1024, to: e.responseEnd };
    }),
  );
}
say('Bench, page to drawn tooth, each attempt for the first time', spread(loads));
say(
  'its display file',
  `${spread(fetched.map((f) => f.ms))}; ${quantile(
    fetched.map((f) => f.kb),
    0.5,
  ).toFixed(0)} kB`,
);

/** Frames while the tooth is turned by hand. */
const canvas = await page.locator('[data-scene] canvas').boundingBox();
const frames = (work) =>
  page
    .evaluate(() => {
      window.frames_ = [];
      let last = performance.now();
      const step = (now) => {
        window.frames_.push(now - last);
        last = now;
        window.frame_ = requestAnimationFrame(step);
      };
      window.frame_ = requestAnimationFrame(step);
    })
    .then(work)
    .then(() =>
      page.evaluate(() => {
        cancelAnimationFrame(window.frame_);
        return window.frames_.slice(2);
      }),
    );
const turned = await frames(async () => {
  const [x, y] = [canvas.x + canvas.width / 2, canvas.y + canvas.height * 0.6];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 0; i < 60; i++) await page.mouse.move(x + 2 * i, y + i / 2);
  await page.mouse.up();
});
say('Bench, a frame while the tooth is turned (no graphics card: software rendering)', spread(turned));
const ringBox = await page.locator('[aria-label="Ring"] svg').boundingBox();
const hovered = await frames(async () => {
  for (let i = 0; i < 60; i++) await page.mouse.move(ringBox.x + 60 + i * 10, ringBox.y + 40);
});
say('Bench, a frame while the ring is followed: section, plane and picture move along', spread(hovered));

/** The Tray with two thousand attempts: the sitting's own rows over and over. */
await page.route(`**/api/sittings/${sitting}/tray`, async (route) => {
  const answer = await (await route.fetch()).json();
  const rows = Array.from({ length: ROWS }, (_, i) => {
    const r = answer.rows[i % answer.rows.length];
    return {
      ...r,
      scan_id: i + 1,
      attempt_id: r.attempt_id === null ? null : i + 1,
      student_name: `${r.student_name} ${i}`,
      picture: null,
    };
  });
  await route.fulfill({ json: { ...answer, rows } });
});
await page.goto(`${base}/tray/${sitting}`);
await page.getByRole('button', { name: `all ${ROWS}` }).waitFor({ timeout: 30_000 });
/** From the click to the picture after it. */
const clicked = async (act) => {
  await page.evaluate(() => {
    window.done_ = new Promise((tell) => {
      const start = (e) => {
        const from = e.timeStamp;
        requestAnimationFrame(() => requestAnimationFrame(() => tell(performance.now() - from)));
        for (const t of ['click', 'change']) document.removeEventListener(t, start, true);
      };
      for (const t of ['click', 'change']) document.addEventListener(t, start, true);
    });
  });
  await act();
  return page.evaluate(() => window.done_);
};
const filters = [];
const buttons = page.locator('fieldset[aria-label="Show"] button');
for (let k = 0; k < 2; k++) for (let i = 0; i < (await buttons.count()); i++) filters.push(await clicked(() => buttons.nth(i).click()));
say(`Tray of ${ROWS}: another filter`, spread(filters));
const sorts = [];
for (const s of ['bench', 'state', 'score', 'student']) sorts.push(await clicked(() => page.getByLabel('Sort by').selectOption(s)));
say(`Tray of ${ROWS}: another order`, spread(sorts));
await page.getByRole('button', { name: `all ${ROWS}` }).click();
const scrolled = await frames(async () => {
  for (let i = 0; i < 60; i++) {
    await page.mouse.wheel(0, 240);
    await page.waitForTimeout(16);
  }
});
say(`Tray of ${ROWS}: a frame while scrolling`, spread(scrolled));
await browser.close();
