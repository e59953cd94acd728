import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { checked } from '#contract/check.ts';
import { RecipeFile, toRecipe } from '#contract/recipe.ts';
import { Fault } from '#core/result/fault.ts';
import type { Recipe } from '#core/simulate/recipe.ts';
import { type SimulatedCase, simulate as simulateCase } from '#core/simulate/simulate.ts';
import type { SolidKernel } from '#core/simulate/solids.ts';
import { writeScan } from '#core/simulate/write.ts';
import { saveMaster } from '../files/master-files.ts';
import { solidKernel } from '../files/solid-kernel.ts';
import { readJson } from './input.ts';

/** A recipe may ask for a part that its tooth or kind lacks: a fault of the recipe, not of the program. */
function made(recipe: Recipe, where: string, kernel: SolidKernel): SimulatedCase {
  try {
    return simulateCase(recipe, kernel);
  } catch (e) {
    if (!(e instanceof RangeError)) throw e;
    throw new Fault('recipe.invalid', {
      where,
      expected: 'a recipe asks for what its tooth can be cut to',
      received: e.message,
      remedy: 'Correct the recipe.',
    });
  }
}

export async function simulate(recipePath: string, out: string): Promise<void> {
  const recipe = toRecipe(checked(RecipeFile, readJson(recipePath, 'recipe.invalid'), 'recipe.invalid', recipePath, 'Correct the recipe.'));
  const c = made(recipe, recipePath, await solidKernel());
  const scan = writeScan(c.scan.mesh, recipe.scan.file ?? 'stl');
  mkdirSync(out, { recursive: true });
  saveMaster(path.join(out, 'master'), c.master);
  if (c.abutment) saveMaster(path.join(out, 'abutment'), c.abutment);
  writeFileSync(path.join(out, scan.name), scan.bytes);
  const truth = {
    format: 'veritor-truth/1',
    recipe,
    scanToMaster: c.scanToMaster,
    readings: c.truth(),
  };
  writeFileSync(path.join(out, 'truth.json'), `${JSON.stringify(truth, null, 1)}\n`);
  process.stdout.write(
    `${path.join(out, 'master')}, ${path.join(out, scan.name)} (${c.scan.mesh.triangles.length / 3} triangles) and ${path.join(out, 'truth.json')} (${truth.readings.length} true values) are written.\n`,
  );
}
