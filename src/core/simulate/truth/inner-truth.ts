import { type CariesRecipe, caries as cariesBody, cariesSolid, pulpSolid } from '../../anatomy/inner.ts';
import type { Solid } from '../../anatomy/tessellate.ts';
import { toRadians, type Vec3 } from '../../linalg/vec.ts';
import { bounds, makeMesh } from '../../mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, type Surface, signedDistance } from '../../spatial/surface.ts';
import { type CavityParts, cavityParts } from '../cavity/cavity.ts';
import { loftSolid } from '../cavity/loft.ts';
import { envelopeOf } from '../crown/envelope.ts';
import type { Preparation } from '../preparation.ts';
import type { Typodont } from '../typodont.ts';
import type { Truth } from './truth.ts';

/** mm: side of the cells in which decay is counted; half of what the reading counts in. */
const CELL = 0.06;

/** True distance to the pulp and true decay left, from the cutter's solids and the bodies' formulas. */
export function innerTruth(t: Typodont, p: Preparation, caries: { recipe: CariesRecipe; at: Vec3 } | null): Truth[] {
  const cut = cutOf(t, p);
  if (!cut) return [];
  const out: Truth[] = [];
  const pulp = surfaceOf(pulpSolid(t.target));
  const hit = newClosest();
  let least = Infinity;
  for (const { positions: q } of cut.solids)
    for (let i = 0; i < q.length; i += 3) {
      if (!(t.target.inside(q[i], q[i + 1], q[i + 2]) > 0)) continue;
      if ((signedDistance(pulp, q[i], q[i + 1], q[i + 2], least) ?? 1) <= 0) least = 0;
      else if (closestPoint(pulp, q[i], q[i + 1], q[i + 2], hit, least)) least = Math.sqrt(hit.distanceSquared);
    }
  out.push({ name: 'pulp.distance', zone: null, stat: 'min', unit: 'mm', value: least });
  if (caries) out.push(...cariesTruth(t, cut, caries));
  if (caries && p.kind === 'cavity') out.push(...lesionTruth(t, cavityParts(t, p), caries));
  return out;
}

function cariesTruth(t: Typodont, cut: Cut, { recipe, at }: { recipe: CariesRecipe; at: Vec3 }): Truth[] {
  const { within } = cariesBody(t.target, recipe, at);
  const b = bounds(cariesSolid(t.target, recipe, at).positions);
  let cells = 0;
  let deepest = 0;
  for (let x = b.min[0]; x < b.max[0]; x += CELL)
    for (let y = b.min[1]; y < b.max[1]; y += CELL)
      for (let z = b.min[2]; z < b.max[2]; z += CELL) {
        if (!(within(x, y, z) > 0)) continue;
        const d = cut.standing(x, y, z);
        if (d <= 0) continue;
        cells++;
        deepest = Math.max(deepest, d);
      }
  return [
    { name: 'caries.left', zone: null, stat: 'value', unit: 'mm3', value: cells * CELL ** 3 },
    { name: 'caries.left.depth', zone: null, stat: 'max', unit: 'mm', value: deepest },
  ];
}

/** Places along a side of a triangle of the decay's body. */
const SIDE_PLACES = 24;

/** How much deeper each axial wall lies than the places of the decay beside it, between the floors. */
function lesionTruth(t: Typodont, parts: CavityParts, { recipe, at }: { recipe: CariesRecipe; at: Vec3 }): Truth[] {
  const { positions: q, triangles } = cariesSolid(t.target, recipe, at);
  return parts.boxes.flatMap((b): Truth[] => {
    const s = b.recipe.side === 'mesial' ? 1 : -1;
    let least = Infinity;
    // Densely along the sides of the body's triangles.
    for (let i = 0; i < triangles.length; i++) {
      const [from, to] = [3 * triangles[i], 3 * triangles[i % 3 === 2 ? i - 2 : i + 1]];
      for (let k = 0; k < SIDE_PLACES; k++) {
        const [x, y, z] = [0, 1, 2].map((j) => q[from + j] + ((q[to + j] - q[from + j]) * k) / SIDE_PLACES);
        if (s * x <= 0 || z < b.floorZ + 0.1 || z > parts.pulpalZ) continue;
        least = Math.min(least, s * (x - b.axialX(y)) - (z - b.floorZ) * Math.tan(toRadians(b.recipe.axial)));
      }
    }
    if (!Number.isFinite(least)) return [];
    return [{ name: 'axial.lesion', zone: `box ${b.recipe.side}`, stat: 'value', unit: 'mm', value: least }];
  });
}

interface Cut {
  readonly solids: readonly Solid[];
  /** mm under the cut face; 0 or less where it was cut away. */
  standing(x: number, y: number, z: number): number;
}

/** The cutter's solids of those kinds whose cut faces are theirs alone. */
function cutOf(t: Typodont, p: Preparation): Cut | null {
  if (p.kind === 'crown') {
    const solid = envelopeOf(t, p).solid();
    const s = surfaceOf(solid);
    return { solids: [solid], standing: (x, y, z) => -(signedDistance(s, x, y, z) as number) };
  }
  if (p.kind === 'cavity') {
    const parts = cavityParts(t, p);
    const solids = [...[...(parts.occlusal ? [parts.occlusal] : []), ...parts.boxes.map((b) => b.loft)].map(loftSolid), ...parts.bevels];
    const surfaces = solids.map(surfaceOf);
    return { solids, standing: (x, y, z) => Math.min(...surfaces.map((s) => signedDistance(s, x, y, z) as number)) };
  }
  return null;
}

const surfaceOf = (s: Solid): Surface => makeSurface(makeMesh('tooth', s.positions, s.triangles));
