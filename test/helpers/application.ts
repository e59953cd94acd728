import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, mkdtempSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { type Browser, type BrowserContext, chromium } from 'playwright-core';
import { startServer } from '../../scripts/server.mjs';

/** The real built application on a port and a data folder of its own, with a browser beside it. */
export interface Running {
  readonly base: string;
  readonly folder: string;
  readonly browser: Browser;
  readonly pid: number;
  signedIn(name: string): Promise<BrowserContext>;
  stop(): Promise<void>;
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address() as { port: number };
      s.close(() => resolve(port));
    });
  });

/** A crown on 16 that several journeys begin with. */
export const CROWN_16 = {
  format: 'veritor-recipe/1',
  tooth: '16',
  seed: 5,
  preparation: {
    kind: 'crown',
    occlusal: { functional: 1.3, nonFunctional: 1.1, elsewhere: 1.1 },
    taper: { facial: 6, mesial: 5, lingual: 6, distal: 5 },
    margin: { width: { facial: 0.9, mesial: 0.6, lingual: 0.6, distal: 0.6 } },
  },
  scan: { triangles: 120_000 },
};

/** Cases made so far, by recipe and built program: journeys run in processes of their own, and one case takes a quarter of a minute. */
const CASES = path.join('.cache', 'journey-cases');

/** A simulated case in a new folder, made by the command line as a user would; the same recipe again is a copy. */
export function simulated(recipe: unknown): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-case-'));
  const text = JSON.stringify(recipe);
  const kept = path.join(
    CASES,
    createHash('sha256')
      .update(text)
      .update(`${statSync('dist/cli/veritor.mjs').mtimeMs}`)
      .digest('hex'),
  );
  if (!existsSync(kept)) {
    const made = `${kept}-${process.pid}`;
    mkdirSync(made, { recursive: true });
    writeFileSync(path.join(made, 'recipe.json'), text);
    execFileSync(process.execPath, ['bin/veritor.mjs', 'simulate', '--recipe', path.join(made, 'recipe.json'), '--out', made]);
    renameSync(made, kept);
  }
  cpSync(kept, folder, { recursive: true });
  return folder;
}

async function answering(base: string): Promise<void> {
  for (let i = 0; i < 400; i++) {
    const ready = await fetch(`${base}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (ready) return;
    await pause(200);
  }
  throw new Error('the application did not become ready');
}

const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--enable-unsafe-swiftshader'],
  });

async function stopped(browser: Browser, server: ReturnType<typeof startServer>, folder: string): Promise<void> {
  await browser.close();
  server.kill('SIGTERM');
  await Promise.race([new Promise((r) => server.once('exit', r)), pause(5000)]);
  rmSync(folder, { recursive: true, force: true });
}

/** An installation that nobody used yet, with the link that its start printed. */
export interface Empty extends Pick<Running, 'base' | 'browser' | 'stop'> {
  readonly first: string;
}

export async function startEmpty(): Promise<Empty> {
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-data-'));
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = startServer({ root: process.cwd(), port, data: folder, demo: undefined, stdio: ['ignore', 'pipe', 'inherit'] });
  let said = '';
  server.stdout?.on('data', (d) => {
    said += d;
  });
  await answering(base);
  const first = /First start: open \S+?(\/first-start\/\S+)/.exec(said)?.[1];
  if (!first) throw new Error(`no link was printed: ${said}`);
  const browser = await launch();
  return { base, browser, first, stop: () => stopped(browser, server, folder) };
}

/** Starts the application with the demo's people and the master of a simulated case. */
export async function start(caseFolder: string): Promise<Running> {
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-data-'));
  mkdirSync(folder, { recursive: true });
  // The demo finds a master an exercise; the case's own becomes the zirconia exercise's.
  cpSync(path.join(caseFolder, 'master'), path.join(caseFolder, 'masters', 'crown-16'), { recursive: true });
  writeFileSync(path.join(caseFolder, 'complete'), 'yes');
  process.env.VERITOR_DEMO_WEEKS = 'no';
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = startServer({ root: process.cwd(), port, data: folder, demo: caseFolder, stdio: ['ignore', 'inherit', 'inherit'] });
  await answering(base);
  const browser = await launch();
  return {
    base,
    folder,
    browser,
    pid: server.pid as number,
    async signedIn(name) {
      const context = await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
      const page = await context.newPage();
      await page.goto('/sign-in');
      await page.fill('#name', name);
      await page.fill('#password', 'harbour-lane');
      await page.click('button.act');
      await page.waitForURL((u) => !u.pathname.startsWith('/sign-in'));
      await page.close();
      return context;
    },
    stop: () => stopped(browser, server, folder),
  };
}
