// Thread of the simulated bench scanner: cuts a preparation as a student would and posts the scan file.
import { constants, setPriority } from 'node:os';
import { byHand } from '#core/simulate/hand.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { solidKernel } from '../../files/solid-kernel.ts';
import { EXERCISES, handOf, workshopOptions } from '../../seed/cast.ts';

export interface ScanTask {
  readonly exercise: string;
  readonly student: string;
  /** Number of earlier preparations of the student. */
  readonly attempt: number;
}

// Low priority, as for measuring: requests of people go first.
if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_LOW);

// Building a typodont takes as long as cutting into it, so the last one is kept.
let open: { exercise: string; workshop: Workshop } | null = null;

export default async function run({ exercise, student, attempt }: ScanTask): Promise<Uint8Array> {
  const e = EXERCISES.find((q) => q.id === exercise);
  if (!e) throw new RangeError(`there is no simulated exercise ${exercise}`);
  if (open?.exercise !== exercise) open = { exercise, workshop: new Workshop(...workshopOptions(e, await solidKernel())) };
  const hand = handOf(student);
  const scan = { ...defaultRecipe(e.tooth, 1).scan, triangles: 110_000 };
  return writeStl(open.workshop.cut({ ...byHand(hand, e.task, attempt), scan }, hand.seed * 10 + attempt).scan.mesh);
}
