import { PART } from '../../master/master.ts';
import { makeMesh } from '../../mesh/mesh.ts';
import { makeSurface, signedDistance } from '../../spatial/surface.ts';
import { toothSolid } from '../bodies.ts';
import { damageBall } from '../damage.ts';
import type { Recipe } from '../recipe.ts';
import type { Typodont } from '../typodont.ts';
import type { Truth } from './truth.ts';

/** Deepest loss of each neighbour: the ball's own surface against the neighbour's formula, tessellated fine. */
export function damageTruth(t: Typodont, damage: Recipe['neighbourDamage'], abutment?: string): Truth[] {
  return (['mesial', 'distal'] as const).flatMap((side): Truth[] => {
    const n = t.teeth.find((q) => q.part === PART[side]);
    // A neighbour that was prepared on purpose has no damage.
    if (!n || n.shape.tooth === abutment) return [];
    const truth = (value: number): Truth[] => [{ name: `neighbour.${side}`, zone: null, stat: 'max', unit: 'mm', value }];
    if (damage[side] === 0) return truth(0);
    const solid = toothSolid(n, 110);
    const surface = makeSurface(makeMesh('tooth', solid.positions, solid.triangles));
    const { centre: c, radius } = damageBall(t, PART[side], damage[side]);
    let deepest = 0;
    const points = 4000;
    for (let i = 0; i < points; i++) {
      const z = 1 - (2 * i + 1) / points;
      const r = Math.sqrt(1 - z * z);
      const a = i * Math.PI * (3 - Math.sqrt(5));
      const d = signedDistance(surface, c[0] + radius * r * Math.cos(a), c[1] + radius * r * Math.sin(a), c[2] + radius * z, 2);
      if (d !== null) deepest = Math.max(deepest, -d);
    }
    return truth(deepest);
  });
}
