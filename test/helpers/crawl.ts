import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { BrowserContext, Page } from 'playwright-core';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What the accessibility checker objects to on a page. */
export async function objections(page: Page): Promise<string[]> {
  // Evaluated, not added to the page: its policy lets no script in that is not its own.
  await page.evaluate(axe);
  return page.evaluate(async () => {
    const result = await (
      window as unknown as { axe: { run: (o: unknown) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> } }
    ).axe.run({ rules: { 'color-contrast': { enabled: true } } });
    return result.violations.map((q) => `${q.id}: ${q.nodes[0].html.slice(0, 120)}`);
  });
}

/** A path without what tells one attempt, student, exercise or sitting from another: pages of one kind look alike. */
const kindOf = (path: string): string =>
  path
    .replace(/\?.*/, '')
    .replace(/\/\d+(?=\/|$)/g, '/#')
    .replace(/(\/(?:tray|trail|plan|masters|courses|standards|rubrics))\/[^/]+/g, '$1/#');

/** Follows every link from a person's first page, one page of each kind; tells what is wrong with each, by its path. */
export async function crawl(context: BrowserContext, width: number): Promise<{ kinds: readonly string[]; wrong: readonly string[] }> {
  const page = await context.newPage();
  await page.setViewportSize({ width, height: 844 });
  const wrong: string[] = [];
  let path = '/';
  page.on('pageerror', (e) => wrong.push(`${path}: ${e.message}`));
  page.on('response', (r) => r.status() >= 400 && wrong.push(`${path}: ${r.status()} ${r.url()}`));
  const kinds = new Set<string>();
  for (const waiting = [path]; waiting.length > 0; ) {
    path = waiting.shift() as string;
    if (kinds.has(kindOf(path))) continue;
    kinds.add(kindOf(path));
    await page.goto(path, { waitUntil: 'networkidle' });
    wrong.push(...(await objections(page)).map((o) => `${path}: ${o}`));
    const { beyond, odd, links } = await page.evaluate(() => ({
      beyond: document.documentElement.scrollWidth - document.documentElement.clientWidth,
      odd: document.body.innerText.match(/.{0,30}(NaN|undefined|\[object|Infinity).{0,20}/)?.[0],
      links: [...document.querySelectorAll<HTMLAnchorElement>('a[href]:not([download])')]
        .map((a) => new URL(a.href))
        .filter((u) => u.origin === location.origin && !u.pathname.startsWith('/api/'))
        .map((u) => u.pathname + u.search),
    }));
    if (beyond > 1) wrong.push(`${path}: reaches ${beyond} px beyond a screen of ${width}`);
    if (odd) wrong.push(`${path}: says “${odd}”`);
    waiting.push(...links);
  }
  await page.close();
  return { kinds: [...kinds], wrong };
}
