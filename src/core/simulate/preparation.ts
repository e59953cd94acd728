import type { CavityRecipe } from './cavity/recipe.ts';
import type { CrownRecipe } from './crown/recipe.ts';
import type { OnlayRecipe } from './onlay/recipe.ts';
import type { PartialRecipe } from './partial/recipe.ts';
import type { PreformedRecipe } from './preformed/recipe.ts';

export type Preparation = CrownRecipe | CavityRecipe | OnlayRecipe | PartialRecipe | PreformedRecipe;
