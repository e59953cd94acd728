import type { Solid } from '../../anatomy/tessellate.ts';
import { toRadians, type Vec3 } from '../../linalg/vec.ts';
import { CrownEnvelope } from '../crown/envelope.ts';
import { CLEAN_CROWN } from '../crown/recipe.ts';
import { between } from '../rings.ts';
import type { Typodont } from '../typodont.ts';
import type { PreformedRecipe, SliceRecipe } from './recipe.ts';

export interface PlacedSlice {
  readonly side: 'mesial' | 'distal';
  readonly recipe: SliceRecipe;
  /** Height at which it ends, and where its plane stands there and above: |x| at a height. */
  readonly from: number;
  faceX(z: number): number;
  /** What it takes away. */
  readonly solid: Solid;
}

export interface PreformedParts {
  /** Only its top cuts. */
  readonly envelope: CrownEnvelope;
  readonly slices: readonly PlacedSlice[];
}

export function preformedParts(t: Typodont, r: PreformedRecipe): PreformedParts {
  const envelope = new CrownEnvelope(t, {
    ...CLEAN_CROWN,
    occlusal: { functional: r.occlusal, nonFunctional: r.occlusal, elsewhere: r.occlusal },
    ...(r.occlusal === 0 ? { top: 'stands' } : {}),
  });
  const slices = (['mesial', 'distal'] as const).flatMap((side) => {
    const recipe = r[side];
    return recipe ? [sliceOf(t, side, recipe)] : [];
  });
  return { envelope, slices };
}

function sliceOf(t: Typodont, side: 'mesial' | 'distal', recipe: SliceRecipe): PlacedSlice {
  const s = side === 'mesial' ? 1 : -1;
  const phi = (s * Math.PI) / 2;
  const from = t.margin(phi) + recipe.over;
  const outer = t.target.side(phi, from);
  const tan = Math.tan(toRadians(recipe.lean));
  const faceX = (z: number): number => outer - recipe.ledge - (z - from) * tan;
  // A feather edge leaves the tooth's side by itself: below it the plane lies outside.
  const bottom = recipe.ledge > 0 ? from : from - 2;
  const solid = between([bottom, t.target.plan.height + 3], (z): Vec3[] => [
    [s * faceX(z), -9, z],
    [s * faceX(z), 9, z],
    [s * (outer + 6), 9, z],
    [s * (outer + 6), -9, z],
  ]);
  return { side, recipe, from, faceX, solid };
}
