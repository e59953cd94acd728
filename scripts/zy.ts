import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const k = await solidKernel();
const w = new Workshop('46', 3, k);
const scan = { ...defaultRecipe('46', 3).scan, triangles: 20000 };
const c = w.carve({ preparation: CLEAN_CROWN, neighbourDamage: { mesial: 0, distal: 0 }, scan });
c.truth();
