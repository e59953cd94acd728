// Detected faults by size: npm run study:faults -- [--only lip,wander] [--write FILE]
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import type { Reading } from '#core/result/reading.ts';
import { FAULTS, type FaultName } from '#core/simulate/faults/faults.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { withFaults } from '#core/simulate/spoil.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { BENCHES, TRIALS, type TrialResult } from './fault-trials.ts';
import { sharded } from './shards.ts';

const { values } = parseArgs({ options: { only: { type: 'string' }, write: { type: 'string' }, shard: { type: 'string' } } });
const trials = TRIALS.filter((t) => !values.only || values.only.split(',').includes(t.fault));

/** Clean scans beside the first, to see how often clean work is called faulty. */
const AGAIN = 3;

async function work(shard: number, of: number): Promise<TrialResult[]> {
  const kernel = await solidKernel();
  const out: TrialResult[] = [];
  const benches = [...new Set(trials.map((t) => t.on))].flatMap((on) => BENCHES[on].teeth.map((tooth) => ({ on, tooth })));
  for (const [i, { on, tooth }] of benches.entries()) {
    if (i % of !== shard) continue;
    const bench = BENCHES[on];
    const shop = new Workshop(tooth, 30 + i, kernel, { caries: bench.caries ?? null });
    const master = prepareMaster(shop.master.description, shop.master.meshes);
    const kind = bench.preparation.kind as 'crown' | 'cavity';
    const cusp = master.landmarks.cusps.find((c) => c.role === 'functional')?.name ?? '';
    const read = (faults: { fault: FaultName; size: number; at?: string }[], seed: number): Reading[] => {
      const r = withFaults({ ...defaultRecipe(tooth, seed, bench.preparation), faults });
      return readings(master, kind, shop.cut({ ...r, scan: { ...r.scan, triangles: 120_000 } }, seed).scan.mesh);
    };
    const clean = Array.from({ length: 1 + AGAIN }, (_, k) => read([], 400 + 17 * i + k));
    for (const t of trials.filter((q) => q.on === on)) {
      const named = (s: string | null | undefined) => (s === 'cusp' ? cusp : s);
      const of1 = (list: Reading[]) => list.find((r) => r.name === t.reading && r.zone === named(t.zone) && r.stat === t.stat);
      const reference = of1(clean[0]);
      const tell = (size: number, run: number, list: Reading[]): void => {
        const r = of1(list);
        const known = r && reference && r.value !== null && reference.value !== null;
        out.push({
          fault: t.fault,
          tooth,
          size,
          run,
          value: r?.value ?? null,
          clean: reference?.value ?? null,
          found: known
            ? Math.abs((r.value as number) - (reference.value as number)) > Math.hypot(r.U as number, reference.U as number)
            : null,
        });
      };
      for (const [k, list] of clean.slice(1).entries()) tell(0, k, list);
      const at = named(t.at);
      for (const [k, size] of t.sizes.entries()) tell(size, 0, read([{ fault: t.fault, size, ...(at ? { at } : {}) }], 700 + 31 * i + k));
    }
    process.stderr.write(`${on} ${tooth} done\n`);
  }
  return out;
}

function readings(master: Master, kind: 'crown' | 'cavity', scan: Parameters<typeof measure>[1]): Reading[] {
  return [...measure(kind, scan, master).readings];
}

const rows = await sharded(values.shard, work);
for (const t of trials) {
  const of1 = (size: number) => rows.filter((r) => r.fault === t.fault && r.size === size);
  const cell = (size: number) =>
    of1(size)
      .map((r) => `${r.found === null ? '?' : r.found ? '+' : '-'}${r.value?.toFixed(2) ?? ''}`)
      .join(' ');
  process.stdout.write(
    `${FAULTS[t.fault].words} (${t.reading}${t.zone ? ` ${t.zone}` : ''}): ${[0, ...t.sizes].map((s) => `${s}: ${cell(s)}`).join(' | ')}\n`,
  );
}
if (values.write) writeFileSync(values.write, JSON.stringify(rows));
