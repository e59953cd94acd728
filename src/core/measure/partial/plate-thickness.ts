import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { add, scale, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { castRay } from '../../spatial/ray.ts';
import { closestPoint, newClosest, pseudoNormal } from '../../spatial/surface.ts';
import type { PartialContext } from './context.ts';

const NAME = 'plate.thickness';
/** The surface behind the plate looks to lingual: y of its normal. */
const LINGUAL = -0.5;
/** The plate's own face looks to facial: y of its normal. */
const FACIAL = 0.5;
/** mm under the tooth's own surface from which a place has a plate in front of it: towards the outline every slice runs out to nothing. */
const DEEP = 0.5;
/** mm, and distances between a scan's points, by which that depth is moved at the least to see how much the thinnest place hangs on it. */
const MOVED = 0.1;
const SPACING = 1.1;
/** mm over the gingival margin from which there is a plate. */
const NECK = 0.3;
/** mm: what is thicker than this is the tooth and no plate. */
const THICK = 4;
/** mm² of the thinnest places whose mean is the reading. */
const THINNEST = 0.3;
/** mm within which the place where a look comes out is found on the surface again. */
const SAME_MM = 0.1;
/** Looks through the plate at the most. */
const MOST = 6000;
/** mm² of a plate at the least. */
const LEAST = 1;

/** Thickness of the facial plate by prepared point, all of them, for the picture. */
export const plateThicknesses = (c: PartialContext): ReadonlyMap<number, number> => {
  const { depth } = c.crown.anatomy.region;
  return new Map([...thicknesses(c, Infinity).of].filter(([v]) => depth[v] >= DEEP));
};

const movedBy = ({ crown }: PartialContext): number => Math.max(MOVED, SPACING * crown.anatomy.region.spacing);

/** Thickness of the facial plate by prepared point, of every so many of them; `each` is how many a look stands for. */
function thicknesses(c: PartialContext, most = MOST): { readonly of: ReadonlyMap<number, number>; readonly each: number } {
  const { master, region } = c.crown.anatomy;
  const { mesh, prepared, normals } = region;
  const p = mesh.positions;
  const own: number[] = [];
  const from = DEEP - movedBy(c);
  for (let v = 0; v < prepared.length; v++)
    if (prepared[v] && normals[3 * v + 1] < LINGUAL && p[3 * v + 2] > NECK && region.depth[v] >= from) own.push(v);
  const each = Math.max(1, Math.ceil(own.length / most));
  const of = new Map<number, number>();
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < own.length; i += each) {
    const v = own[i];
    const into: Vec3 = [-normals[3 * v], -normals[3 * v + 1], -normals[3 * v + 2]];
    const at: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const through = castRay(master.target, at, into, THICK);
    if (through === null) continue;
    // A corner's own direction may lead out through another side: only the facial face ends a plate.
    if (!closestPoint(master.target, ...add(at, scale(into, through)), hit, SAME_MM)) continue;
    pseudoNormal(master.target, hit, normal);
    if (normal[1] > FACIAL * Math.hypot(...normal)) of.set(v, through);
  }
  return { of, each };
}

/**
 * Facial plate: how thick the tooth is that stands in front of slices, grooves and box, at its thinnest.
 * @formula from each prepared point that looks to lingual and lies 0.5 mm or more under the tooth's own surface, straight into the tooth to the master's own facial surface; mean of the thinnest 0.3 mm², and the median of all under 4 mm
 * @units mm
 * @frame tooth
 * @fails not-covered (nothing of the preparation has a plate in front of it)
 * @source own definition, docs/definitions.md
 * @example a slot 2 mm behind an upright facial surface leaves 2
 */
export function plateThickness(c: PartialContext): Reading[] {
  const { region, alignment } = c.crown.anatomy;
  const { of, each } = thicknesses(c);
  const all = Array.from(of, ([v, d]) => ({ v, d, area: each * region.areas[v] })).sort((a, b) => a.d - b.d);
  const places = all.filter((q) => region.depth[q.v] >= DEEP);
  const area = places.reduce((sum, q) => sum + q.area, 0);
  if (places.length < 20 || area < LEAST) return refusal(NAME, null, ['min', 'median'], 'not-covered');
  let half = 0;
  const middle = places.find((q) => {
    half += q.area;
    return half >= area / 2;
  }) as Place;
  const p = region.mesh.positions;
  const at = (v: number) => ({ point: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as const });
  const give = (stat: 'min' | 'median', value: number, v: number, ...own: readonly number[]): Reading =>
    reading({
      name: NAME,
      stat,
      value,
      U: expanded(alignment.pointError, ...own, methodUncertainty(NAME, stat)),
      at: at(v),
      samples: places.length,
    });
  // Towards the outline a slice thins fast: what counts as plate decides how thin it is there.
  const deeper = all.filter((q) => region.depth[q.v] >= DEEP + movedBy(c));
  const moved = deeper.length ? (thinnest(deeper) - thinnest(all)) / 2 / Math.sqrt(3) : 0;
  return [
    // The thinnest of noisy places are those that noise made thin: its share goes into U.
    give('min', thinnest(places), places[0].v, region.depthNoise, moved),
    give('median', middle.d, middle.v, region.depthNoise / 3),
  ];
}

interface Place {
  readonly v: number;
  readonly d: number;
  readonly area: number;
}

/** Mean of the thinnest 0.3 mm² of places in order. */
function thinnest(places: readonly Place[]): number {
  let [area, sum] = [0, 0];
  for (let i = 0; i < places.length && area < THINNEST; i++) {
    area += places[i].area;
    sum += places[i].area * places[i].d;
  }
  return sum / area;
}
