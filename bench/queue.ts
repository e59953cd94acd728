// A day's queue in the real application: npm run bench:queue -- [--scans 100] [--triangles 120000]
// Drops that many scans at once while a thread of its own asks for the tray: seconds a scan, cores busy, and how long the answers take.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { Worker } from 'node:worker_threads';
import { simulated, start } from '../test/helpers/application.ts';

const { values } = parseArgs({
  options: { scans: { type: 'string', default: '100' }, triangles: { type: 'string', default: '120000' } },
});
const count = Number(values.scans);
const folder = simulated({
  format: 'veritor-recipe/1',
  tooth: '16',
  seed: 5,
  preparation: { kind: 'crown' },
  scan: { triangles: Number(values.triangles) },
});
const app = await start(folder);
const context = await app.signedIn('piet');
const scan = readFileSync(path.join(folder, 'scan.stl'));
const api = context.request;
const tray = '/api/sittings/crown-16-w6/tray';

/** The same scan with another comment in its header is another file: nothing is measured twice by content. */
const copy = (i: number): Buffer => {
  const bytes = Buffer.from(scan);
  bytes.write(`bench ${i}`, 0, 'ascii');
  return bytes;
};

/** Seconds of processor time that the server has used so far. */
const cpu = (pid: number): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
};

// Packing the files keeps this thread busy: somebody else's page is asked for from another one.
const asker = new Worker(
  `const { parentPort, workerData } = require('node:worker_threads');
   let asking = true;
   parentPort.on('message', () => { asking = false; });
   (async () => {
     const waits = [];
     // The first call of a thread loads its own means of calling.
     await (await fetch(workerData.health)).text();
     parentPort.postMessage('ready');
     while (asking) {
       const t = performance.now();
       await (await fetch(workerData.url, { headers: { cookie: workerData.cookie } })).text();
       waits.push(performance.now() - t);
       await new Promise((r) => setTimeout(r, 150));
     }
     parentPort.postMessage(waits);
     parentPort.close();
   })();`,
  {
    eval: true,
    workerData: {
      health: `${app.base}/api/health`,
      url: app.base + tray,
      cookie: (await context.cookies()).map((c) => `${c.name}=${c.value}`).join('; '),
    },
  },
);
const nextMessage = <T>(): Promise<T> =>
  new Promise((resolve, reject) => {
    asker.once('message', resolve);
    asker.once('error', reject);
  });
await nextMessage<'ready'>();
const answered = nextMessage<number[]>();

const began = performance.now();
const cpuBefore = cpu(app.pid);
for (let i = 0; i < count; i += 2) {
  const multipart = new FormData();
  for (let k = i; k < Math.min(count, i + 2); k++)
    multipart.append('scan', new File([new Uint8Array(copy(k))], `H${String((k % 36) + 1).padStart(2, '0')}_run${Math.floor(k / 36)}.stl`));
  await api.post('/api/sittings/crown-16-w6/scans', { multipart });
}
const sent = (performance.now() - began) / 1000;
for (;;) {
  const { waiting } = await (await api.get(tray)).json();
  if (waiting === 0) break;
  await pause(1000);
}
const seconds = (performance.now() - began) / 1000;
const cores = (cpu(app.pid) - cpuBefore) / seconds;
asker.postMessage('enough');
const waits = (await answered).sort((a, b) => a - b);
const at = (q: number): string => waits[Math.min(waits.length - 1, Math.floor(q * waits.length))].toFixed(0);
process.stdout.write(
  `${count} scans of ${values.triangles} triangles: sent in ${sent.toFixed(1)} s, all measured after ${seconds.toFixed(0)} s (${(seconds / count).toFixed(1)} s a scan).\n` +
    `Server used ${cores.toFixed(2)} cores on average. The tray answered ${waits.length} times meanwhile: half within ${at(0.5)} ms, ` +
    `95 % within ${at(0.95)} ms, 99 % within ${at(0.99)} ms, slowest ${at(1)} ms; ${waits.filter((w) => w > 100).length} over 100 ms.\n`,
);
await app.stop();
