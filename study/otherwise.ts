// The same preparation written otherwise, reading by reading: npm run study:otherwise -- [--only TEXT[,TEXT]]
import { parseArgs } from 'node:util';
import { measure } from '#core/pipeline.ts';
import type { Reading } from '#core/result/reading.ts';
import { FOREIGN } from './foreign/families.ts';
import { masterOf, OTHERWISE, writtenOf } from './foreign/otherwise.ts';

const USUAL = 'loft molar26 chamfer 0.8,swept round end,level set partial canine,level set incisor UL,implicit molar36 MOD';
const { values } = parseArgs({ options: { only: { type: 'string', default: USUAL } } });
const asked = values.only.split(',');

const keyOf = (r: Reading): string => `${r.name} ${r.zone ?? ''} ${r.stat}`;

for (const { name, make } of FOREIGN.filter((c) => asked.includes(c.name))) {
  const c = make();
  const written = writtenOf(c.scan, c.master);
  const read = (w: typeof written): Map<string, Reading> =>
    new Map(measure(c.kind, w.scan, masterOf(w)).readings.map((r) => [keyOf(r), r]));
  const usual = read(written);
  for (const [words, change] of Object.entries(OTHERWISE)) {
    const now = read(change(written));
    const changed: string[] = [];
    let worst = 0;
    for (const [key, a] of usual) {
      const b = now.get(key);
      if (!b || (a.value === null) !== (b.value === null)) changed.push(`${key}: ${a.value ?? a.reason} → ${b?.value ?? b?.reason}`);
      else if (a.value !== null && b.value !== null) {
        const off = Math.abs(a.value - b.value) / Math.hypot(a.U, b.U, 1e-6);
        worst = Math.max(worst, off);
        if (off > 1) changed.push(`${key}: ${a.value.toFixed(3)} ± ${a.U.toFixed(3)} → ${b.value.toFixed(3)} ± ${b.U.toFixed(3)}`);
      }
    }
    process.stdout.write(`${name}, ${words}: ${usual.size} readings, ${changed.length} changed, worst ${worst.toFixed(2)} of both U\n`);
    for (const line of changed) process.stdout.write(`    ${line}\n`);
  }
}
