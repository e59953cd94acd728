import { readFileSync } from 'node:fs';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { readScan } from '#core/scan/scan.ts';
import { loadMaster } from '../src/files/master-files.ts';
const d = process.argv[2];
const { description, meshes } = loadMaster(d);
const master = prepareMaster(description, meshes);
for (const c of process.argv.slice(3)) {
  const m = measure('partial', readScan(readFileSync(`${d}/${c}.stl`)).mesh, master);
  console.log(c, m.readings.filter((r) => r.name.startsWith('groove')).map((r) => `${r.name} ${r.zone} ${r.value?.toFixed(3) ?? r.reason} ±${r.U?.toFixed(2)}`).join('; '));
}
