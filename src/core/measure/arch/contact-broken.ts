import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { heightAt } from '../../linalg/curve.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { cross, dot, sub, type Vec3 } from '../../linalg/vec.ts';
import { PART, partAlone } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { ownersOf } from '../../segment/owners.ts';
import { closestPoint, newClosest, type Surface } from '../../spatial/surface.ts';
import type { CrownContext } from '../crown/context.ts';

/** Cosine between two surfaces' normals over which they look the same way. */
const SAME_WAY = 0.3;
/** mm over the gingival margin from which uncut tooth is looked at: at the margin itself tooth and papilla merge in a scan. */
const OVER = 0.3;
/** mm² of the tooth that must be as near: single points where two scanned surfaces meet belong to neither. */
const SEEN_AREA = 0.03;
/** Share of the distance between a scan's points by which it cuts an edge off, at most. */
const EDGE_TAKEN = 0.1;
/** mm of the tooth's breadth whose points are looked at together. */
const SLICE = 0.1;
/** mm from the axis that no tooth's side stands beyond. */
const BROADEST = 20;
/** mm: beyond it the gap is simply open, and its size does not matter. */
const FAR = 4;

/**
 * Contact broken: the smallest gap left between the prepared tooth and its neighbour.
 * @formula least distance that 0.03 mm² lie within, from the tooth's cut points, its finish line, and its uncut ones 0.3 mm or more over the gingival margin, to the neighbour's master surface over its gingiva
 * @units mm; zone mesial, distal
 * @frame tooth
 * @fails no-neighbour, far-apart
 * @source own definition, docs/definitions.md
 * @example a tooth whose shell was left standing at the contact reads about 0
 */
export function contactBroken(c: CrownContext): Reading[] {
  const { region, alignment, master } = c.anatomy;
  const owners = ownersOf(alignment.scan, master);
  const p = c.steady;
  const margin = Array.from({ length: 360 }, (_, a) => heightAt(master.landmarks.gingivalMargin, a) ?? Infinity);
  const own: number[] = [];
  for (let v = 0; v < region.prepared.length; v++) {
    const uncut =
      owners.part[region.from[v]] === PART.target && p[3 * v + 2] > margin[Math.floor(azimuthOf(p[3 * v], p[3 * v + 1])) % 360] + OVER;
    if (region.prepared[v] || uncut) own.push(v);
  }
  const name = 'contact.broken';
  return (['mesial', 'distal'] as const).flatMap((side): Reading[] => {
    const neighbour = partAlone(master, PART[side]);
    if (!neighbour) return refusal(name, side, ['min'], 'no-neighbour');
    const s = side === 'mesial' ? 1 : -1;
    // From the side of the contact inward: the first points leave little to be looked for by the others.
    const slices: number[][] = Array.from({ length: Math.ceil(BROADEST / SLICE) }, () => []);
    for (const v of own) slices[Math.floor((s * p[3 * v]) / SLICE)]?.push(v);
    const ordered = slices.reverse().flat();
    const hit = newClosest();
    /** The nearest points found so far, nearest first, no more than reach the area. */
    const nearest: { v: number; gap: number }[] = [];
    let area = 0;
    let least = FAR;
    for (const v of ordered) {
      if (!closestPoint(neighbour, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit, least)) continue;
      // At a contact the neighbour's points are as near to the tooth's old surface as to their own: they look the way that the neighbour does, or, where
      // the scan of the arch left no neighbour there, at least back to the tooth.
      if (!region.prepared[v] && (s * region.normals[3 * v] < -SAME_WAY || facing(region.normals, v, neighbour, hit.triangle) > SAME_WAY))
        continue;
      const gap = Math.sqrt(hit.distanceSquared);
      const place = nearest.findIndex((q) => q.gap > gap);
      nearest.splice(place < 0 ? nearest.length : place, 0, { v, gap });
      area += region.areas[v];
      for (let last = nearest[nearest.length - 1]; area - region.areas[last.v] >= SEEN_AREA; last = nearest[nearest.length - 1]) {
        nearest.pop();
        area -= region.areas[last.v];
      }
      if (area >= SEEN_AREA) least = nearest[nearest.length - 1].gap;
    }
    if (area < SEEN_AREA) return refusal(name, side, ['min'], 'far-apart');
    const at = nearest[0].v;
    let edge = Math.min(EDGE_TAKEN * region.spacing, c.blunted[at]);
    let point: Vec3 = [p[3 * at], p[3 * at + 1], p[3 * at + 2]];
    // The place nearest to a neighbour is often the finish line's own edge, of which the scan and its averaging have each taken a part: the line itself was read.
    for (const q of finishLine(c)) {
      if (s * q[0] <= 0 || !closestPoint(neighbour, q[0], q[1], q[2], hit, least)) continue;
      least = Math.sqrt(hit.distanceSquared);
      point = q;
      edge = 0;
    }
    const U = expanded(alignment.pointError, 0.5 * alignment.noise, edge, methodUncertainty(name, 'min'));
    return [
      reading({
        name,
        zone: side,
        stat: 'min',
        value: least,
        U,
        at: { azimuth: azimuthOf(point[0], point[1]), point },
        samples: ordered.length,
      }),
    ];
  });
}

/** Places of the finish line, where the preparation reaches. */
function finishLine(c: CrownContext): Vec3[] {
  return c.azimuths.flatMap((azimuth, k) => {
    const [r, z] = [c.finishR[k], c.finishZ[k]];
    return r === null || z === null || !c.anatomy.covered[k] ? [] : [radialPoint(azimuth, r, z)];
  });
}

/** Cosine between a point's normal and a triangle's. */
function facing(normals: Float64Array, v: number, { mesh }: Surface<'tooth'>, triangle: number): number {
  const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
    const i = 3 * mesh.triangles[3 * triangle + k];
    return [mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]];
  });
  const n = cross(sub(b, a), sub(c, a));
  const l = Math.hypot(n[0], n[1], n[2]);
  return l ? dot([normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]], n) / l : 0;
}
