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
export const plateThicknesses = (c: PartialContext): ReadonlyMap<number, number> => thicknesses(c, Infinity).of;

/** Thickness of the facial plate by prepared point, of every so many of them; `each` is how many a look stands for. */
function thicknesses(c: PartialContext, most = MOST): { readonly of: ReadonlyMap<number, number>; readonly each: number } {
  const { master, region } = c.crown.anatomy;
  const { mesh, prepared, normals } = region;
  const p = mesh.positions;
  const own: number[] = [];
  for (let v = 0; v < prepared.length; v++)
    if (prepared[v] && normals[3 * v + 1] < LINGUAL && p[3 * v + 2] > NECK && region.depth[v] >= DEEP) own.push(v);
  const each = Math.max(1, Math.ceil(own.length / most));
  const of = new Map<number, number>();
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < own.length; i += each) {
    const v = own[i];
    const into: Vec3 = [-normals[3 * v], -normals[3 * v + 1], -normals[3 * v + 2]];
    const from: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const through = castRay(master.target, from, into, THICK);
    if (through === null) continue;
    // A corner's own direction may lead out through another side: only the facial face ends a plate.
    if (!closestPoint(master.target, ...add(from, scale(into, through)), hit, SAME_MM)) continue;
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
  const places = Array.from(of, ([v, d]) => ({ v, d, area: each * region.areas[v] })).sort((a, b) => a.d - b.d);
  const area = places.reduce((sum, q) => sum + q.area, 0);
  if (places.length < 20 || area < LEAST) return refusal(NAME, null, ['min', 'median'], 'not-covered');
  const thin: typeof places = [];
  for (let sum = 0; thin.length < places.length && sum < THINNEST; sum += places[thin.length - 1].area) thin.push(places[thin.length]);
  const weight = thin.reduce((s, q) => s + q.area, 0);
  const least = thin.reduce((s, q) => s + q.area * q.d, 0) / weight;
  let half = 0;
  const middle = places.find((q) => {
    half += q.area;
    return half >= area / 2;
  }) as (typeof places)[number];
  const p = region.mesh.positions;
  const at = (v: number) => ({ point: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as const });
  const give = (stat: 'min' | 'median', value: number, v: number, own: number): Reading =>
    reading({
      name: NAME,
      stat,
      value,
      U: expanded(alignment.pointError, own, methodUncertainty(NAME, stat)),
      at: at(v),
      samples: places.length,
    });
  return [
    // The thinnest of noisy places are those that noise made thin: its share goes into U.
    give('min', least, thin[0].v, region.depthNoise),
    give('median', middle.d, middle.v, region.depthNoise / 3),
  ];
}
