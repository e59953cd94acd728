import { FAULTS, type FaultName } from './faults/faults.ts';
import type { Preparation } from './preparation.ts';
import type { Recipe } from './recipe.ts';

/** The recipe with its faults expressed as parameters, so that cutting and truth need not know faults. */
export function withFaults(recipe: Recipe): Recipe {
  let { preparation } = recipe;
  const neighbourDamage = { ...recipe.neighbourDamage };
  let { cut } = recipe;
  for (const f of recipe.faults ?? []) {
    const fault = FAULTS[f.fault];
    const at = f.at ?? fault.at;
    if (fault.of !== 'surroundings') preparation = spoiled(preparation, f.fault, f.size, at, recipe.tooth);
    else if (at === 'mesial' || at === 'distal') {
      if (f.fault === 'neighbour') neighbourDamage[at] = f.size;
      else if (f.size > 0) cut = at;
    } else throw new RangeError(`"${at}" is no neighbour: mesial or distal`);
  }
  return { ...recipe, preparation, neighbourDamage, ...(cut ? { cut } : {}) };
}

function spoiled(p: Preparation, name: FaultName, size: number, at: string, tooth: string): Preparation {
  const fault = FAULTS[name];
  if (fault.of === 'crown') {
    if (p.kind === 'crown') return { ...fault.make(p, size, at, tooth), kind: 'crown' };
    if (p.kind === 'onlay') return { ...p, cover: fault.make(p.cover, size, at, tooth) };
    if (p.kind === 'partial') return { ...p, crown: fault.make(p.crown, size, at, tooth) };
  } else if (fault.of === 'cavity') {
    if (p.kind === 'cavity') return { ...fault.make(p, size, at, tooth), kind: 'cavity' };
    if (p.kind === 'onlay') return { ...p, inside: fault.make(p.inside, size, at, tooth) };
  } else if (fault.of === 'partial' && p.kind === 'partial') return { ...fault.make(p, size, at, tooth), kind: 'partial' };
  throw new RangeError(`“${fault.words}” is no fault of a preparation of kind ${p.kind}`);
}
