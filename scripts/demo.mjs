// Everything for a look at Veritor: installs, builds, makes the demo's scans meanwhile, serves, prints where and who.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages } from './freshness.mjs';
import { startServer } from './server.mjs';

ensurePackages();
const started = Date.now();
const root = path.dirname(path.dirname(new URL(import.meta.url).pathname));
const scans = path.join(root, '.data', 'demo-scans');
const data = path.join(root, '.data', 'demo');
mkdirSync(data, { recursive: true });

let making = Promise.resolve();
const complete = existsSync(path.join(scans, 'complete'));
if (!complete) {
  process.stderr.write('Making the demo’s scans…\n');
  const { bundle } = await import('./bundle.mjs');
  const seed = path.join(root, '.cache', 'seed.mjs');
  await bundle('src/seed/main.ts', seed);
  making = new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [seed, scans], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error('the demo scans could not be made'))));
  });
}
await ensureBuild();

const port = process.env.PORT ?? '4321';
const address = `http://127.0.0.1:${port}`;
const server = startServer({ root, port, data, demo: scans, stdio: ['ignore', 'ignore', 'inherit'] });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill('SIGTERM'));
making.catch((e) => process.stderr.write(`${e.message}\n`));
server.on('exit', (code) => process.exit(code ?? 0));
for (let i = 0; i < 600; i++) {
  const ready = await fetch(`${address}/api/health`).then(
    (r) => r.ok,
    () => false,
  );
  if (ready) break;
  await new Promise((r) => setTimeout(r, 200));
}
process.stdout.write(`
Veritor is ready after ${((Date.now() - started) / 1000).toFixed(0)} s:  ${address}

  who         name     password
  director    maren    harbour-lane
  instructor  ines     harbour-lane
  assistant   piet     harbour-lane
  student     h04      harbour-lane   (H04, Dario Venn; any of h01 to h36)

Five weeks are being entered as they were graded; the sixth is scanned and measured now: watch it in the Tray. Stop with Ctrl-C.
`);
