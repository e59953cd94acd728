import type { Alignment } from '../../align/align.ts';
import type { Master } from '../../master/master.ts';
import { bounds, subMesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { TargetRegion } from '../../segment/target.ts';
import { closestPoint, makeSurface, newClosest, onBorder, type Surface, signedDistance, signOf } from '../../spatial/surface.ts';

/** mm: side of the cells in which decay is counted. */
const CELL = 0.12;

/**
 * Caries that is still there, where the master carries a caries body.
 * @formula volume of the caries body inside the remaining tooth, summed over cells of 0.12 mm, each by its share on the inner side of the body's, the master's and the scan's surface; the largest distance of a cell inside both from the prepared surface
 * @units mm³; mm
 * @frame tooth
 * @fails no-caries, nothing-prepared
 * @source own definition, docs/definitions.md
 * @example a cavity that holds the whole body leaves 0
 */
export function cariesLeft(region: TargetRegion, alignment: Alignment, { caries, target }: Master): Reading[] {
  const refuse = (reason: 'no-caries' | 'nothing-prepared'): Reading[] => [
    ...refusal('caries.left', null, ['value'], reason),
    ...refusal('caries.left.depth', null, ['max'], reason),
  ];
  if (!caries) return refuse('no-caries');
  const { mesh, normals, prepared } = region;
  const cutMesh = subMesh(mesh, (f) => prepared[mesh.triangles[3 * f]] === 1).mesh;
  if (cutMesh.triangles.length === 0) return refuse('nothing-prepared');
  const cut = makeSurface(cutMesh);
  const tooth = makeSurface(mesh);
  const b = bounds(caries.mesh.positions);
  const hit = newClosest();
  // Where noise has folded the scan a triangle may look backward; the directions averaged round it do not.
  const looksInward = (x: number, y: number, z: number): boolean => {
    const t = mesh.triangles;
    let along = 0;
    for (let k = 0; k < 3; k++) {
      const v = 3 * t[3 * hit.triangle + k];
      along += (x - hit.x) * normals[v] + (y - hit.y) * normals[v + 1] + (z - hit.z) * normals[v + 2];
    }
    return along < 0;
  };
  /** mm outside of a surface, negative inside. Beside its border nothing was seen that would be cut, so that it counts as inside. */
  const outOf = (s: Surface<'tooth'>, x: number, y: number, z: number): number => {
    closestPoint(s, x, y, z, hit);
    return onBorder(s, hit) ? -CELL : signOf(s, hit, x, y, z) * Math.sqrt(hit.distanceSquared);
  };
  let cells = 0;
  let samples = 0;
  let deepest = 0;
  let at: [number, number, number] | null = null;
  for (let x = b.min[0]; x < b.max[0] + CELL; x += CELL)
    for (let y = b.min[1]; y < b.max[1] + CELL; y += CELL)
      for (let z = b.min[2]; z < b.max[2] + CELL; z += CELL) {
        const decayed = signedDistance(caries, x, y, z, 5) ?? CELL;
        if (decayed >= CELL / 2) continue;
        // A caries body may reach out of its tooth, into a neighbour even.
        const uncut = outOf(target, x, y, z);
        if (uncut >= CELL / 2) continue;
        const standing = outOf(tooth, x, y, z);
        if (standing >= CELL / 2 || (standing < 0 && !onBorder(tooth, hit) && !looksInward(x, y, z))) continue;
        cells += innerShare(decayed) * innerShare(Math.max(standing, uncut));
        if (decayed > 0 || standing > 0 || uncut > 0) continue;
        samples++;
        closestPoint(cut, x, y, z, hit);
        const d = Math.sqrt(hit.distanceSquared);
        if (d <= deepest) continue;
        deepest = d;
        at = [x, y, z];
      }
  const place = at && { point: at };
  const volume = cells * CELL ** 3;
  // Noise and pose displace the cut face, whose area is at most two faces of a cube of that volume.
  const face = 2 * Math.cbrt(volume) ** 2 * (alignment.pointError + 0.02);
  return [
    reading({ name: 'caries.left', value: volume, U: expanded(0.005, face, 0.01 * volume), at: place, samples }),
    reading({
      name: 'caries.left.depth',
      stat: 'max',
      value: deepest,
      U: expanded(alignment.pointError, alignment.noise, CELL / 2),
      at: place,
      samples,
    }),
  ];
}

/** Share of a cell on a surface's inner side, its centre `distance` outside of it. */
const innerShare = (distance: number): number => Math.min(1, Math.max(0, 0.5 - distance / CELL));
