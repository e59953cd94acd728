// A trial preparation in masters of several constructions: what was cut against what was read. npm run study:trial -- [--teeth 16,25]
import { parseArgs } from 'node:util';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { trialOf } from '#server/masters/trial.ts';
import { agrees } from '../src/contract/trial.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { FOREIGN } from './foreign/families.ts';

const { values } = parseArgs({ options: { teeth: { type: 'string' }, all: { type: 'boolean' } } });
function* masters(kernel: Awaited<ReturnType<typeof solidKernel>>): Generator<[string, Master]> {
  for (const [i, tooth] of (values.teeth ?? '16,36,24,45,11,33,85').split(',').entries()) {
    const { description, meshes } = new Workshop(tooth, 23 + i, kernel, { name: 'x' }).master;
    yield [`simulator ${tooth}`, prepareMaster(description, meshes)];
  }
  const seen = new Set<string>();
  for (const f of FOREIGN) {
    let c: ReturnType<typeof f.make>;
    try {
      c = f.make();
    } catch {
      continue;
    }
    const key = `${c.family} ${c.master.description.tooth}`;
    if (seen.has(key)) continue;
    seen.add(key);
    yield [key, c.master];
  }
}
for (const [name, m] of masters(await solidKernel())) {
  const start = performance.now();
  try {
    const lines = trialOf(m);
    const given = lines.filter((l) => l.value !== null);
    const off = given.filter((l) => agrees(l) === false);
    process.stdout.write(
      `${name}: ${given.length - off.length} of ${given.length} within U, ${lines.length - given.length} not given, ${((performance.now() - start) / 1000).toFixed(1)} s\n`,
    );
    for (const l of off)
      process.stdout.write(
        `   ${l.name} ${l.zone ?? ''} ${l.stat}: cut ${l.cut.toFixed(3)} read ${l.value?.toFixed(3)} ± ${l.U?.toFixed(3)}\n`,
      );
  } catch (e) {
    process.stdout.write(`${name}: ${(e as Error).message}\n`);
  }
}
