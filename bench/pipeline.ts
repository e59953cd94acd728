// Seconds and memory of each stage on one scan and one master: npm run bench -- [--triangles 200000] [--repeat 3] [--tooth 16] [--kind crown,cavity,onlay,partial]
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
/** ms that a fixed sum takes: the machine's pace, by which runs of different hours can be compared. */
function pace(): number {
  const start = performance.now();
  let sum = 0;
  for (let i = 1; i < 3e7; i++) sum += 1 / (i * i);
  if (!(Math.abs(sum - Math.PI ** 2 / 6) < 1e-6)) throw new Error(`the sum of 1/n² is ${sum}`);
  return performance.now() - start;
}

interface Job {
  readonly kind: keyof typeof CLEAN;
  readonly bytes: Uint8Array;
  readonly triangles: number;
  /** Seconds that cutting and scanning took. */
  readonly made: number;
  first: number;
  /** Each stage's least ms. A stage is short enough to fall into a quick moment of a shared machine; a whole run rarely is. */
  readonly best: Map<string, number>;
}

const kinds = values.kind.split(',') as (keyof typeof CLEAN)[];
for (const kind of kinds) if (!(kind in CLEAN)) throw new Error(`--kind ${kind} is not one of ${Object.keys(CLEAN).join(', ')}`);
const jobs: Job[] = [];
for (const kind of kinds)
  for (const triangles of values.triangles.split(',').map(Number)) {
    const start = performance.now();
    const recipe = defaultRecipe(values.tooth, 3, CLEAN[kind]);
    const { mesh } = workshop.cut({ ...recipe, scan: { ...recipe.scan, triangles } }, 5).scan;
    const made = (performance.now() - start) / 1000;
    jobs.push({ kind, bytes: writeStl(mesh), triangles: mesh.triangles.length / 3, made, first: 0, best: new Map() });
  }
// A worker keeps the master it measures with: its opposing arch and other bodies are made ready by the first scan that asks for them.
const t0 = performance.now();
const master = prepareMaster(workshop.master.description, workshop.master.meshes);
const masterMs = performance.now() - t0;
let peak = 0;
let quickest = Infinity;
// By turns, so that an hour in which the machine is slow does not fall on one kind.
for (let i = 0; i <= Number(values.repeat); i++) {
  quickest = Math.min(quickest, pace());
  for (const job of jobs) {
    const spent = new Map<string, number>();
    let at = performance.now();
    let stage: Stage = 'scan';
    const mark = (next: Stage): void => {
      const now = performance.now();
      spent.set(stage, (spent.get(stage) ?? 0) + now - at);
      at = now;
      stage = next;
    };
    const scan = readScan(job.bytes);
    measure(job.kind, scan.mesh, master, { report: (next) => mark(next) });
    mark('score');
    peak = Math.max(peak, process.memoryUsage().rss / 2 ** 20);
    if (i === 0) job.first = sum(spent);
    else for (const [name, ms] of spent) job.best.set(name, Math.min(ms, job.best.get(name) ?? Infinity));
  }
}
say(
  `The master once: ${masterMs.toFixed(0)} ms. Pace: 30 million reciprocal squares in ${quickest.toFixed(0)} ms. Peak of the whole process ${peak.toFixed(0)} MB.\n`,
);
say(
  '| kind | scan triangles | parse, weld | align | segment | all readings | scan to readings (ms) | the first scan of it (ms) | cut and scanned by the simulator (s) |',
);
say('|---|---|---|---|---|---|---|---|---|');
for (const { kind, triangles, made, first, best } of jobs) {
  const stages = ['scan', 'align', 'segment', 'measure'].map((s) => (best.get(s) ?? 0).toFixed(0));
  const total = sum(best).toFixed(0);
  say(`| ${kind} | ${(triangles / 1000).toFixed(0)} k | ${stages.join(' | ')} | ${total} | ${first.toFixed(0)} | ${made.toFixed(1)} |`);
}
say('\nEach stage at its best of the repeats, one thread; scan to readings is their sum.');
