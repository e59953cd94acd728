// Reads that many hostile files and counts the outcomes: npm run fuzz -- 100000 [first seed]
import { type FORMATS, hostileFile, outcome } from '../test/helpers/fuzz.ts';

const count = Number(process.argv[2] ?? 100_000);
const first = Number(process.argv[3] ?? 1);
const faults = new Map<string, number>();
const formats = new Map<(typeof FORMATS)[number], number>();
const broken: string[] = [];
let slowest = 0;
let slowestSeed = 0;
const begun = performance.now();
for (let seed = first; seed < first + count; seed++) {
  const file = hostileFile(seed);
  formats.set(file.format, (formats.get(file.format) ?? 0) + 1);
  const start = performance.now();
  try {
    const what = await outcome(file);
    faults.set(what, (faults.get(what) ?? 0) + 1);
  } catch (e) {
    broken.push(`seed ${seed} (${file.format}): ${(e as Error).stack?.split('\n').slice(0, 3).join(' | ')}`);
  }
  const ms = performance.now() - start;
  if (ms > slowest) [slowest, slowestSeed] = [ms, seed];
}
const line = (s: string) => process.stdout.write(`${s}\n`);
line(`${count} files in ${((performance.now() - begun) / 1000).toFixed(0)} s; slowest ${slowest.toFixed(0)} ms (seed ${slowestSeed})`);
line(`memory at the end ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB`);
for (const [f, n] of formats) line(`  ${f}: ${n}`);
for (const [w, n] of [...faults].sort((a, b) => b[1] - a[1])) line(`  ${w}: ${n}`);
line(`${broken.length} were neither read nor refused by a fault`);
for (const b of broken.slice(0, 20)) line(`  ${b}`);
process.exit(broken.length === 0 ? 0 : 1);
