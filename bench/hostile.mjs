// Sends hostile files to the real application while polling its Tray: npm run bench:hostile
// Prints the slowest answer, the server's memory and the outcome of each file.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { gzipSync, zipSync } from 'fflate';
import { startServer } from '../scripts/server.mjs';

const text = (s) => new TextEncoder().encode(s);
const ply = (...lines) => text(`ply\nformat binary_little_endian 1.0\n${lines.join('\n')}\nend_header\n`);
const joined = (...parts) => Buffer.concat(parts.map((p) => Buffer.from(p)));
const FILES = {
  'list of forty million.ply.gz': gzipSync(
    joined(
      ply(
        'element vertex 3',
        'property float x',
        'property float y',
        'property float z',
        'element face 1',
        'property list uint int vertex_indices',
      ),
      new Uint8Array(36),
      Uint32Array.of(40e6),
      new Uint8Array(160e6),
    ),
    { level: 1 },
  ),
  'blank lines.stl': text(`${'\n'.repeat(3e6)}Dear colleague`),
  'billions without properties.ply': ply(
    'element vertex 3',
    'property float x',
    'property float y',
    'property float z',
    'element nothing 4000000000',
  ),
  'billions of vertices.ply': ply('element vertex 4000000000', 'property float x', 'property float y', 'property float z'),
  'two gigabytes.stl.gz': gzipSync(new Uint8Array(1.9e9), { level: 1 }),
  'a zip of zips.zip': zipSync({ 'a.stl': zipSync({ 'b.stl': new Uint8Array(1000) }) }),
  'many large.zip': zipSync(Object.fromEntries(Array.from({ length: 40 }, (_, i) => [`${i}.stl`, new Uint8Array(40e6)])), { level: 1 }),
  'names.zip': zipSync({ '../../../out.stl': text('x'), 'a\0b.stl': text('y') }),
  'soup.stl': (() => {
    const n = 60_000;
    const b = Buffer.alloc(84 + 50 * n);
    b.writeUInt32LE(n, 80);
    for (let i = 0; i < n; i++) for (let k = 0; k < 9; k++) b.writeFloatLE(((i * 9 + k) * 7919) % 40, 84 + 50 * i + 12 + 4 * k);
    return b;
  })(),
  'more than it holds.stl': (() => {
    const b = Buffer.alloc(84 + 500);
    b.writeUInt32LE(2_000_000_000, 80);
    return b;
  })(),
};

const port = Number(process.env.PORT ?? 4399);
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(path.join(tmpdir(), 'veritor-hostile-'));
const server = startServer({
  root: process.cwd(),
  port,
  data,
  demo: process.env.DEMO ?? '.data/demo-scans',
  stdio: ['ignore', 'ignore', 'inherit'],
});
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    server.kill('SIGTERM');
    process.exit(1);
  });
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1000;
try {
  for (let i = 0; i < 600; i++) {
    if (
      await fetch(`${base}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      break;
    await pause(200);
  }
  const entered = await fetch(`${base}/api/sign-in`, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin: base, 'content-type': 'application/x-www-form-urlencoded' },
    body: 'name=ines&password=harbour-lane',
  });
  const cookie = entered.headers.get('set-cookie')?.split(';')[0] ?? '';
  const sitting = process.env.SITTING ?? 'crown-16-w6';
  const ask = () => fetch(`${base}/api/sittings/${sitting}/tray`, { headers: { cookie } });
  let done = false;
  let slowest = 0;
  let answers = 0;
  let most = 0;
  const asking = (async () => {
    while (!done) {
      const start = performance.now();
      await (await ask()).text();
      slowest = Math.max(slowest, performance.now() - start);
      most = Math.max(most, memory());
      answers++;
      await pause(50);
    }
  })();
  let n = 11;
  for (const [name, bytes] of Object.entries(FILES)) {
    const form = new FormData();
    form.append('scan', new Blob([bytes]), `H${n++} ${name}`);
    const sent = performance.now();
    const r = await fetch(`${base}/api/sittings/${sitting}/scans`, { method: 'POST', headers: { cookie, origin: base }, body: form });
    process.stdout.write(
      `${name} (${(bytes.length / 1e6).toFixed(2)} MB): ${r.status} after ${((performance.now() - sent) / 1000).toFixed(1)} s\n`,
    );
  }
  for (let i = 0; i < 240; i++) {
    const { rows } = await (await ask()).json();
    if (!rows.some((r) => r.state === 'arrived' || r.state === 'measuring')) {
      for (const r of rows.filter((q) => q.fault)) process.stdout.write(`  ${r.fault}\n`);
      break;
    }
    await pause(1000);
  }
  done = true;
  await asking;
  process.stdout.write(
    `${answers} answers of the Tray meanwhile, the slowest after ${slowest.toFixed(0)} ms; the server's memory at most ${most.toFixed(0)} MB\n`,
  );
} finally {
  server.kill('SIGTERM');
  rmSync(data, { recursive: true, force: true });
}
