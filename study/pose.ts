// Errors of alignment: npm run study:pose -- [--teeth 16,45,22,75] [--each 2] [--poses 6] [--write FILE]
// The simulator knows each scan's pose; the error is the remaining displacement on the target tooth.
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { align } from '#core/align/align.ts';
import { applyPoint, invertRigid } from '#core/linalg/rigid.ts';
import { distance, type Vec3 } from '#core/linalg/vec.ts';
import { prepareMaster } from '#core/master/master.ts';
import { readScan } from '#core/scan/scan.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { drawnCrown } from './recipes.ts';

const { values } = parseArgs({
  options: {
    teeth: { type: 'string', default: '16,45,22,75' },
    each: { type: 'string', default: '2' },
    poses: { type: 'string', default: '6' },
    noise: { type: 'string', default: '0,0.01,0.02,0.03' },
    triangles: { type: 'string', default: '120000' },
    write: { type: 'string' },
  },
});

/** Places on the target, tooth frame: its middle, and its neck and cusps' level on three sides. */
const PLACES: readonly Vec3[] = [
  [0, 0, 3],
  [4, 0, 0],
  [-2, 4, 0],
  [-2, -4, 6],
];

const kernel = await solidKernel();
const rows: { noise: number; middle: number; worst: number; stated: number }[] = [];
for (const [t, tooth] of values.teeth.split(',').entries()) {
  const shop = new Workshop(tooth, 70 + t, kernel);
  const master = prepareMaster(shop.master.description, shop.master.meshes);
  const places = PLACES.map((p) => applyPoint(invertRigid(master.toTooth), p));
  for (let e = 0; e < Number(values.each); e++) {
    const scan = { triangles: Number(values.triangles), noise: 0, correlation: 0.25, pose: 'random', border: 1 } as const;
    const carved = shop.carve({ ...drawnCrown(tooth, 20 + e), scan });
    for (const noise of values.noise.split(',').map(Number))
      for (let pose = 0; pose < Number(values.poses); pose++) {
        const made = shop.scan(carved, { ...scan, noise }, 1000 * e + 10 * pose + Math.round(100 * noise));
        const fit = align(readScan(writeStl(made.scan.mesh)).mesh, master);
        const back = invertRigid(made.scanToMaster);
        const errors = places.map((p, i) => distance(applyPoint(fit.matrix, applyPoint(back, p)), PLACES[i]));
        rows.push({ noise, middle: errors[0], worst: Math.max(...errors), stated: 2 * fit.pointError });
      }
  }
  process.stderr.write(`${tooth} done\n`);
}

const at = (v: readonly number[], q: number): number => [...v].sort((a, b) => a - b)[Math.min(v.length - 1, Math.floor(q * v.length))];
const micro = (mm: number): string => `${(1000 * mm).toFixed(1)} µm`;
const lines = [...new Set(rows.map((r) => r.noise))].map((noise) => {
  const here = rows.filter((r) => r.noise === noise);
  const worst = here.map((r) => r.worst);
  const within = here.filter((r) => r.middle <= r.stated).length / here.length;
  const stated = here.reduce((t, r) => t + r.stated, 0) / here.length;
  return `| ${noise} mm | ${here.length} | ${micro(at(worst, 0.5))} | ${micro(at(worst, 0.95))} | ${micro(stated)} | ${Math.round(100 * within)} % |`;
});
const table = `| scan noise | scans | worst place off by: half within | 95 % within | stated for the middle (k = 2) | middle within that |\n|---|---|---|---|---|---|\n${lines.join('\n')}\n`;
process.stdout.write(table);
if (values.write) writeFileSync(values.write, table);
