import { readFileSync } from 'node:fs';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { readScan } from '#core/scan/scan.ts';
import { loadMaster } from '../src/files/master-files.ts';
const d = process.argv[2];
const { description, meshes } = loadMaster(d + '/master');
const m = measure('crown', readScan(readFileSync(d + '/' + (process.argv[3] ?? 'scan.stl'))).mesh, prepareMaster(description, meshes));
const a = m.context.crown!.anatomy as any;
const n = a.profiles.length;
let s = '';
for (let k = 0; k < n; k += n / 120) { const p = a.profiles[Math.round(k)]; s += p ? (p.wall ? 'W' : 'p') : '.'; }
console.log(n, s);
