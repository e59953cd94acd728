// Where a cementoenamel junction is seen, where one is seen though there is none, and how far off: npm run study:cej
import { propose } from '#core/annotate/propose.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { quantile } from '#core/statistics/quantile.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { etched, type Neck, neckOf } from './foreign/neck.ts';

const TEETH = ['46', '36', '14', '25', '13', '21', '31', '85'];
const NECKS: readonly (readonly [string, Neck | null])[] = [
  ['none', null],
  ['furrow of 0.05 mm', { form: 'furrow', depth: 0.05 }],
  ['furrow of 0.1 mm', { form: 'furrow', depth: 0.1 }],
  ['step of 0.1 mm', { form: 'step', depth: 0.1 }],
  ['furrow of 0.1 mm, facial half', { form: 'furrow', depth: 0.1, isHalf: true }],
];
const kernel = await solidKernel();
const rows = new Map<string, { found: number; degrees: number[]; off: number[] }>();
for (const tooth of TEETH) {
  const { description: d, meshes } = new Workshop(tooth, 31, kernel, { name: 'x', caries: null }).master;
  const crown = { ...meshes.arch, axis: d.axis, mesial: d.mesial, facial: d.facial, marks: d };
  const touched = [0, 1, 2].map((k) => d.cusps.reduce((s, c) => s + c.at[k], 0) / d.cusps.length) as unknown as Vec3;
  for (const noise of [0, 0.02])
    for (const [name, neck] of NECKS) {
      const key = `${name} | ${noise}`;
      const row = rows.get(key) ?? { found: 0, degrees: [], off: [] };
      rows.set(key, row);
      const p = propose(etched(crown, neck, noise), tooth, touched);
      if (!p.description.cej) continue;
      row.found++;
      row.degrees.push(p.cejSeen_deg);
      row.off.push(...p.description.cej.map((q) => Math.abs(neckOf(crown)(q).over)));
    }
}
process.stdout.write(
  '| junction | noise of each point (mm) | found | seen over, median (°) | off: median, 95 % (mm) |\n|---|---|---|---|---|\n',
);
for (const [key, r] of rows)
  process.stdout.write(
    `| ${key} | ${r.found} of ${TEETH.length} | ${r.degrees.length ? quantile(r.degrees, 0.5) : '–'} | ${r.off.length ? `${quantile(r.off, 0.5).toFixed(2)}, ${quantile(r.off, 0.95).toFixed(2)}` : '–'} |\n`,
  );
