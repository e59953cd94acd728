// A school's own installation: installs, builds and serves; an empty one prints the link of its first start.
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages } from './freshness.mjs';
import { startServer } from './server.mjs';

ensurePackages();
const root = path.dirname(path.dirname(new URL(import.meta.url).pathname));
const data = process.env.DATA_DIR ?? path.join(root, '.data', 'school');
mkdirSync(data, { recursive: true });
await ensureBuild();
const port = process.env.PORT ?? '4321';
const server = startServer({ root, port, data, demo: undefined, stdio: ['ignore', 'inherit', 'inherit'] });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill('SIGTERM'));
server.on('exit', (code) => process.exit(code ?? 0));
// The first question opens the data.
for (let i = 0; i < 300; i++) {
  const ready = await fetch(`http://127.0.0.1:${port}/api/health`).then(
    (r) => r.ok,
    () => false,
  );
  if (ready) break;
  await new Promise((r) => setTimeout(r, 200));
}
process.stdout.write(`Veritor is ready: http://127.0.0.1:${port}\n`);
