import { bounds, subMesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity.ts';
import { closestPoint, makeSurface, newClosest, onBorder, signedDistance, signOf } from '../../spatial/surface.ts';
import { methodUncertainty } from '../method-uncertainty.ts';

const CELL = 0.12;

/**
 * Caries that is still there, and how near the cavity comes to the pulp; only for masters that carry those bodies.
 * @formula volume of the caries body's cells (0.12 mm) that lie inside the remaining tooth, and the deepest of them under the cavity's surface; least distance from the prepared surface to the pulp body
 * @units mm³; mm; mm
 * @frame tooth
 * @fails — (no body, no reading)
 * @source measures.md 6, `caries.left` and `pulp.distance`
 * @example a cavity that holds the whole body leaves 0
 */
export function cariesLeft(a: CavityAnatomy): Reading[] {
  const out: Reading[] = [];
  const { caries, pulp } = a.master;
  const { mesh, prepared } = a.region;
  const p = mesh.positions;
  if (caries) {
    const cut = makeSurface(subMesh(mesh, (f) => prepared[mesh.triangles[3 * f]] === 1).mesh);
    const b = bounds(caries.mesh.positions);
    const hit = newClosest();
    let cells = 0;
    let deepest = 0;
    let at: [number, number, number] | null = null;
    for (let x = b.min[0] + CELL / 2; x < b.max[0]; x += CELL)
      for (let y = b.min[1] + CELL / 2; y < b.max[1]; y += CELL)
        for (let z = b.min[2] + CELL / 2; z < b.max[2]; z += CELL) {
          if ((signedDistance(caries, x, y, z, 5) ?? 1) > 0) continue;
          if (!closestPoint(cut, x, y, z, hit, 5)) continue;
          const d = Math.sqrt(hit.distanceSquared);
          if (signOf(cut, hit, x, y, z) > 0 || (onBorder(cut, hit) && d > 1)) continue;
          cells++;
          if (d > deepest) {
            deepest = d;
            at = [x, y, z];
          }
        }
    const place = at && { point: at };
    const volume = cells * CELL ** 3;
    out.push(reading({ name: 'caries.left', unit: 'mm3', value: volume, U: Math.max(0.02, 0.15 * volume), at: place, samples: cells }));
    out.push(
      reading({
        name: 'caries.left.depth',
        stat: 'max',
        unit: 'mm',
        value: deepest,
        U: expanded(0.05, a.alignment.noise),
        at: place,
        samples: cells,
      }),
    );
  }
  if (pulp) {
    const hit = newClosest();
    let least = Infinity;
    let where = 0;
    for (let v = 0; v < prepared.length; v++) {
      if (!prepared[v] || !closestPoint(pulp, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit, Math.min(10, least))) continue;
      least = Math.sqrt(hit.distanceSquared);
      where = v;
    }
    if (Number.isFinite(least))
      out.push(
        reading({
          name: 'pulp.distance',
          stat: 'min',
          unit: 'mm',
          value: least,
          U: expanded(a.alignment.pointError, 0.5 * a.alignment.noise, methodUncertainty('box.clearance', 'min')),
          at: { point: [p[3 * where], p[3 * where + 1], p[3 * where + 2]] },
          samples: prepared.length,
        }),
      );
  }
  return out;
}
