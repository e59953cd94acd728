import { readFileSync, readdirSync } from 'node:fs';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { scanFromBytes } from '../src/files/read-file.ts';
import { loadMaster } from '../src/files/master-files.ts';
const [kind, ...ds] = process.argv.slice(2);
for (const d of ds) {
const { description, meshes } = loadMaster(d + '/master');
const file = readdirSync(d).find((f) => f.startsWith('scan'))!;
const t0 = Date.now();
try {
const m = measure(kind as any, scanFromBytes(readFileSync(d + '/' + file), file).mesh, prepareMaster(description, meshes));
const truth = JSON.parse(readFileSync(d + '/truth.json', 'utf8')).readings;
let out = 0, none = 0; const lines: string[] = [];
for (const q of truth) { const r = m.readings.find((x) => x.name === q.name && x.zone === q.zone && x.stat === q.stat);
 if (!r || r.value === null) { none++; if (process.env.V) lines.push(`  none ${q.name} ${q.zone} ${q.stat} ${r?.reason}`); continue; }
 const k = Math.abs(r.value - q.value) / r.U!; if (k > 1) { out++; if (k > 1.5) lines.push(`  ${q.name} ${q.zone} ${q.stat}: ${r.value.toFixed(3)} ± ${r.U!.toFixed(3)} truth ${q.value.toFixed(3)}`); } }
console.log(d, truth.length, 'outside U', out, 'none', none, Date.now() - t0, 'ms'); console.log(lines.slice(0, 25).join('\n'));
} catch (e) { console.log(d, (e as Error).message); }
}
