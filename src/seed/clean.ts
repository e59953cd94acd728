import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { type Cusp, prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { type Curves, EDGE_LENGTH } from '#core/result/curves.ts';
import type { Reading } from '#core/result/reading.ts';
import { readScan } from '#core/scan/scan.ts';
import type { FaultRecipe } from '#core/simulate/faults/faults.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import type { SolidKernel } from '#core/simulate/solids.ts';
import { withFaults } from '#core/simulate/spoil.ts';
import { writeStl } from '#core/simulate/write.ts';
import type { Aim } from './aims.ts';

/** What a scan of an exercise's clean preparation gives: enough to score any rubric of its kind. */
export interface CleanReadings {
  readonly cusps: readonly Pick<Cusp, 'name' | 'role'>[];
  readonly readings: readonly Reading[];
  /** Those that may be judged along their length. */
  readonly curves: Curves;
}

const TRIANGLES = 80_000;
const SEED = 11;

/** The same typodont for all that is cut on one tooth. */
const workshops = new Map<string, Workshop>();

/** Cuts an exercise's clean preparation with the given faults, scans it and reads it. */
export function measuredClean({ tooth, task }: Aim, kernel: SolidKernel, faults: readonly FaultRecipe[] = []): CleanReadings {
  const workshop = workshops.get(tooth) ?? new Workshop(tooth, SEED, kernel, { name: 'series H', caries: null });
  workshops.set(tooth, workshop);
  const recipe = withFaults({ ...defaultRecipe(tooth, SEED, task.aim), faults });
  const { scan } = workshop.cut({ ...recipe, scan: { ...recipe.scan, triangles: TRIANGLES } }, 5);
  const m = measure(task.kind, readScan(writeStl(scan.mesh)).mesh, prepareMaster(workshop.master.description, workshop.master.meshes));
  const along = [EDGE_LENGTH, ...CATALOGUE.filter((e) => e.along).map((e) => e.name)];
  return {
    cusps: m.master.landmarks.cusps.map(({ name, role }) => ({ name, role })),
    readings: m.readings,
    curves: Object.fromEntries(along.flatMap((name) => (m.curves[name] ? [[name, m.curves[name]]] : []))),
  };
}
