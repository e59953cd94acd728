// Makes the demo's files: one master per exercise and each student's scans, which the server takes in like any other.
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { byHand, type Task } from '#core/simulate/hand.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { saveMaster } from '../files/master-files.ts';
import { solidKernel } from '../files/solid-kernel.ts';
import { EXERCISES, type Exercise, handOf, SCANS, SITTINGS, STUDENTS, workshopOptions } from './cast.ts';

const out = process.argv[2];
mkdirSync(out, { recursive: true });
const kernel = await solidKernel();
const workshops = new Map<string, Workshop>();
const scan = { ...defaultRecipe('16', 1).scan, triangles: 110_000 };

/** The exercise's typodont, opened once; its master is written when it is first needed. */
function workshopOf(e: Exercise): Workshop {
  let w = workshops.get(e.id);
  if (!w) {
    w = new Workshop(...workshopOptions(e, kernel));
    workshops.set(e.id, w);
    const folder = path.join(out, 'masters', e.id);
    if (!existsSync(folder)) {
      saveMaster(`${folder}.part`, w.master);
      renameSync(`${folder}.part`, folder);
    }
  }
  return w;
}

for (const { student, sitting, attempt, onTheWay } of SCANS) {
  const exercise = EXERCISES.find((e) => e.id === SITTINGS.find((s) => s.id === sitting)?.exercise) as Exercise;
  const person = STUDENTS.find((s) => s.id === student);
  const folder = path.join(out, sitting);
  const file = path.join(
    folder,
    `${student}_${person?.name.replace(' ', '-')}_${exercise.tooth}${onTheWay ? `_${onTheWay.step}` : ''}.stl`,
  );
  if (existsSync(file)) continue;
  mkdirSync(folder, { recursive: true });
  const hand = handOf(student);
  const made = onTheWay
    ? { preparation: onTheWay.preparation, neighbourDamage: { mesial: 0, distal: 0 } }
    : byHand(hand, exercise.task as Task, attempt);
  const cut = workshopOf(exercise).cut({ ...made, scan }, hand.seed * 10 + attempt);
  writeFileSync(`${file}.part`, writeStl(cut.scan.mesh));
  renameSync(`${file}.part`, file);
}
writeFileSync(path.join(out, 'complete'), 'yes');
