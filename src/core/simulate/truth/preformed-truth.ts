import { PART } from '../../master/master.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { preformedParts } from '../preformed/preformed.ts';
import type { PreformedRecipe } from '../preformed/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { fineSurface } from './fine.ts';
import type { Truth } from './truth.ts';

/** mm between the places of a slice at which its gap to the neighbour is taken. */
const GRID = 0.1;

/** True values of a preformed crown's preparation: how its slices lean, the ledges they leave, the contacts they open. */
export function preformedTruth(t: Typodont, r: PreformedRecipe): Truth[] {
  const { envelope, slices } = preformedParts(t, r);
  const hit = newClosest();
  return slices.flatMap(({ side, recipe, from, faceX }): Truth[] => {
    const out: Truth[] = [
      { name: 'slice.angle', zone: side, stat: 'value', unit: 'deg', value: recipe.lean },
      { name: 'ledge', zone: side, stat: 'max', unit: 'mm', value: recipe.ledge },
    ];
    const neighbour = t.teeth.find((q) => q.part === PART[side]);
    if (!neighbour) return out;
    const surface = fineSurface(neighbour);
    const s = side === 'mesial' ? 1 : -1;
    let least = Infinity;
    for (let z = from; z < t.target.plan.height; z += GRID)
      for (let y = -6; y <= 6; y += GRID) {
        const x = s * faceX(z);
        if (!(t.target.inside(x, y, z) > 0) || envelope.topAt(x, y) < z) continue;
        closestPoint(surface, x, y, z, hit, least);
        if (hit.slot >= 0) least = Math.min(least, Math.sqrt(hit.distanceSquared));
      }
    if (Number.isFinite(least)) out.push({ name: 'contact.broken', zone: side, stat: 'min', unit: 'mm', value: least });
    return out;
  });
}
