import { SIDES } from '../../linalg/sectors.ts';
import type { CrownRecipe } from '../crown/recipe.ts';
import type { Truth } from './truth.ts';

/** The margin's bevel as it was set, alike on every side; where the floor under it is sunk to a lip there is none to read. */
export function marginBevelTruth({ margin }: Pick<CrownRecipe, 'margin'>): Truth[] {
  const { bevel } = margin;
  if (!bevel || margin.places?.some((p) => p.lip)) return [];
  return SIDES.flatMap((zone): Truth[] => [
    { name: 'bevel.width', zone, stat: 'median', unit: 'mm', value: bevel.width },
    { name: 'bevel.angle', zone, stat: 'median', unit: 'deg', value: bevel.angle },
  ]);
}
