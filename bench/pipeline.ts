// Seconds and memory of each stage on one scan and one master: npm run bench -- [--triangles 200000] [--repeat 3] [--tooth 16] [--kind crown]
import { cpus } from 'node:os';
import { parseArgs } from 'node:util';
import { prepareMaster } from '#core/master/master.ts';
import { measure, type Stage } from '#core/pipeline.ts';
import { readScan } from '#core/scan/scan.ts';
import { cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL } from '#core/simulate/partial/recipe.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const { values } = parseArgs({
  options: {
    triangles: { type: 'string', default: '50000,100000,200000,400000' },
    repeat: { type: 'string', default: '3' },
    tooth: { type: 'string', default: '16' },
    kind: { type: 'string', default: 'crown' },
  },
});
const kernel = await solidKernel();
const rows: string[] = [];
const say = (line: string): void => {
  process.stdout.write(`${line}\n`);
};
const sum = (m: Map<string, number>): number => [...m.values()].reduce((a, b) => a + b, 0);
const make = performance.now();
const workshop = new Workshop(values.tooth, 3, kernel);
say(`${cpus()[0].model}, ${cpus().length} cores. Simulated master in ${((performance.now() - make) / 1000).toFixed(1)} s.`);
const CLEAN = {
  crown: CLEAN_CROWN,
  cavity: { ...cleanClassII('mesial'), boxes: [...cleanClassII('mesial').boxes, ...cleanClassII('distal').boxes] },
  onlay: CLEAN_ONLAY,
  partial: CLEAN_PARTIAL,
};
const kind = values.kind as keyof typeof CLEAN;
if (!(kind in CLEAN)) throw new Error(`--kind ${kind} is not one of ${Object.keys(CLEAN).join(', ')}`);
const recipe = defaultRecipe(values.tooth, 3, CLEAN[kind]);
for (const triangles of values.triangles.split(',').map(Number)) {
  const start = performance.now();
  const c = workshop.cut({ ...recipe, scan: { ...recipe.scan, triangles } }, 5);
  const made = (performance.now() - start) / 1000;
  const bytes = writeStl(c.scan.mesh);
  let best: Map<string, number> | null = null;
  let first = 0;
  let peak = 0;
  // A worker keeps the master it measures with: its opposing arch and other bodies are made ready by the first scan that asks for them.
  const t0 = performance.now();
  const master = prepareMaster(workshop.master.description, workshop.master.meshes);
  const masterMs = performance.now() - t0;
  for (let i = 0; i <= Number(values.repeat); i++) {
    const spent = new Map<string, number>();
    let at = performance.now();
    let stage: Stage | 'start' = 'scan';
    const mark = (next: Stage): void => {
      const now = performance.now();
      spent.set(stage, (spent.get(stage) ?? 0) + now - at);
      at = now;
      stage = next;
    };
    const scan = readScan(bytes);
    measure(kind, scan.mesh, master, { report: (next) => mark(next) });
    mark('score');
    peak = Math.max(peak, process.memoryUsage().rss / 2 ** 20);
    if (i === 0) first = sum(spent);
    else if (!best || sum(spent) < sum(best)) best = spent;
  }
  const b = best as Map<string, number>;
  rows.push(
    `| ${(c.scan.mesh.triangles.length / 3 / 1000).toFixed(0)} k | ${masterMs.toFixed(0)} | ${['scan', 'align', 'segment', 'measure'].map((s) => (b.get(s) ?? 0).toFixed(0)).join(' | ')} | ${sum(b).toFixed(0)} | ${first.toFixed(0)} | ${peak.toFixed(0)} | ${made.toFixed(1)} |`,
  );
}
say('');
say(
  '| scan triangles | master, once (ms) | parse, weld | align | segment | all readings | scan to readings (ms) | the first scan of a master (ms) | peak MB | cut and scanned by the simulator (s) |',
);
say('|---|---|---|---|---|---|---|---|---|---|');
for (const r of rows) say(r);
say('\nBest of the repeats, one thread; peak is the whole process, simulator included.');
