// Makes the demo's scans: a master and what each student's hand made of it, as files that the server then takes in like any other.
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { crownByHand } from '#core/simulate/hand.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { saveMaster } from '../files/master-files.ts';
import { solidKernel } from '../files/solid-kernel.ts';
import { HANDS, SCANS, SITTINGS, STUDENTS } from './cast.ts';

const out = process.argv[2];
mkdirSync(out, { recursive: true });
const workshop = new Workshop('16', 11, await solidKernel(), 'Upper right first molar, series H');
if (!existsSync(path.join(out, 'master', 'master.json'))) {
  saveMaster(path.join(out, 'master.part'), workshop.master);
  renameSync(path.join(out, 'master.part'), path.join(out, 'master'));
}
const scan = { ...defaultRecipe('16', 1).scan, triangles: 110_000 };
// The newest week first: it is what one sees first.
for (const { student, sitting } of [...SCANS].reverse()) {
  const person = STUDENTS.find((s) => s.id === student);
  const folder = path.join(out, SITTINGS[sitting].id);
  const file = path.join(folder, `${student}_${person?.name.replace(' ', '-')}_16.stl`);
  if (existsSync(file)) continue;
  mkdirSync(folder, { recursive: true });
  const cut = workshop.cut({ ...crownByHand(HANDS[student], sitting), scan }, HANDS[student].seed * 10 + sitting);
  writeFileSync(`${file}.part`, writeStl(cut.scan.mesh));
  renameSync(`${file}.part`, file);
}
writeFileSync(path.join(out, 'complete'), 'yes');
