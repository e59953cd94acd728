// Thread of the simulated typodonts: cuts a preparation as a student would, or one of the weeks before again, or makes a master's files.
import { mkdtempSync, rmSync } from 'node:fs';
import { constants, setPriority, tmpdir } from 'node:os';
import path from 'node:path';
import { byHand } from '#core/simulate/hand.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { masterArchive } from '../../files/master-archive.ts';
import { saveMaster } from '../../files/master-files.ts';
import { solidKernel } from '../../files/solid-kernel.ts';
import { EXERCISES, type Exercise, handOf, workshopOptions } from '../../seed/cast.ts';
import { recipeOf } from '../../seed/cohort.ts';
import type { ScannerTask } from './task.ts';

// Low priority, as for measuring: requests of people go first.
if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_LOW);

// Building a typodont takes as long as cutting into it, so the last one is kept.
let open: { exercise: string; workshop: Workshop } | null = null;

async function workshopOf(e: Exercise): Promise<Workshop> {
  if (open?.exercise !== e.id) open = { exercise: e.id, workshop: new Workshop(...workshopOptions(e, await solidKernel())) };
  return open.workshop;
}

export default async function run(task: ScannerTask): Promise<Uint8Array> {
  const id = task.kind === 'again' ? task.work.exercise : task.exercise;
  const e = EXERCISES.find((q) => q.id === id);
  if (!e) throw new RangeError(`there is no simulated exercise ${id}`);
  const workshop = await workshopOf(e);
  if (task.kind === 'again') return writeStl(workshop.cut(recipeOf(task.work), task.work.seed).scan.mesh);
  if (task.kind === 'master') return archived(workshop);
  if (!e.task) throw new RangeError(`nothing is cut in ${e.id}`);
  const hand = handOf(task.student);
  const scan = { ...defaultRecipe(e.tooth, 1).scan, triangles: 110_000 };
  return writeStl(workshop.cut({ ...byHand(hand, e.task, task.attempt), scan }, hand.seed * 10 + task.attempt).scan.mesh);
}

function archived(workshop: Workshop): Uint8Array {
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-master-'));
  try {
    saveMaster(folder, workshop.master);
    return masterArchive(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
