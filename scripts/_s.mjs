import { chromium } from 'playwright-core';

const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--enable-unsafe-swiftshader'] });
const c = await b.newContext({ baseURL: 'http://127.0.0.1:4599', viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
const p = await c.newPage();
await p.goto('/sign-in');
await p.fill('#name', 'ines');
await p.fill('#password', 'harbour-lane');
await p.click('button.act');
await p.waitForURL((u) => !u.pathname.startsWith('/sign-in'));
await p.goto('/tray/metal-46-w3');
await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/w/s/tray-w3.png' });
const t0 = Date.now();
await p
  .locator('a', { hasText: /Grade|Open|Look/ })
  .first()
  .click();
await p.waitForSelector('[data-criterion]');
console.log('page', Date.now() - t0);
await p.waitForTimeout(800);
await p.screenshot({ path: '/tmp/w/s/bench-old-loading.png' });
await p.waitForSelector('[data-drawn]', { state: 'attached', timeout: 90000 });
console.log('drawn', Date.now() - t0);
await p.waitForTimeout(800);
await p.screenshot({ path: '/tmp/w/s/bench-old.png' });
await p.goto('/tray/amalgam-37-w4');
await p.waitForTimeout(1500);
await p
  .locator('a', { hasText: /Grade|Open|Look/ })
  .first()
  .click();
await p.waitForSelector('[data-criterion]');
await p.locator('[data-line-head]').first().click();
await p.waitForTimeout(12000);
await p.screenshot({ path: '/tmp/w/s/bench-words.png' });
await p.goto('/trail/H04');
await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/w/s/trail.png' });
await b.close();
