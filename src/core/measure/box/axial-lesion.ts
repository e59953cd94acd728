import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { add, scale, sub, type Vec3 } from '../../linalg/vec.ts';
import type { Mesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { axialError } from '../uncertainty/fit-error.ts';

const NAME = 'axial.lesion';
/** mm over the gingival floor from which a place of the lesion faces the axial wall. */
const OVER = 0.1;
/** mm by which the levels of both floors may be off beside the axial wall, where their middles stand for them: what moving them changes stands in U. */
const LEVEL = 0.08;

/**
 * How much deeper the axial wall lies than the lesion that the box is cut for: axial depth minus the lesion's.
 * @formula least of (x of a place of the caries body − x of the axial wall at its height and width), inward taken as +, over the body's surface 0.1 mm and more over the gingival floor and under the pulpal one
 * @units mm, + wall beyond the lesion, − decay behind the wall
 * @frame tooth
 * @fails no-caries (also where the body does not reach this box), no-box, no-wall
 * @source own definition, docs/definitions.md
 * @example an axial wall half a millimetre inward of the lesion's deepest place reads 0.5
 */
export function axialLesion(a: CavityAnatomy): Reading[] {
  const { caries } = a.master;
  if (a.boxes.length === 0) return refusal(NAME, null, ['value'], caries ? 'no-box' : 'no-caries');
  if (!caries) return a.boxes.flatMap((b) => refusal(NAME, `box ${b.side}`, ['value'], 'no-caries'));
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    if (!b.axial) return refusal(NAME, zone, ['value'], 'no-wall');
    const foot = b.floor.centre[2] + OVER;
    const top = a.pulpal?.centre[2] ?? Number.POSITIVE_INFINITY;
    const found = leastBeyond(caries.mesh, b, foot, top);
    if (!found) return refusal(NAME, zone, ['value'], 'no-caries');
    const moved = [-LEVEL, LEVEL].flatMap((by) => leastBeyond(caries.mesh, b, foot + by, top - by)?.value ?? []);
    const level = (Math.max(found.value, ...moved) - Math.min(found.value, ...moved)) / 2;
    const U = expanded(a.alignment.pointError, axialError(a, b), level, methodUncertainty(NAME, 'value'));
    return [reading({ name: NAME, zone, value: found.value, U, at: { point: found.at }, samples: found.samples })];
  });
}

/** Where the axial wall is nearest to a body between two levels, + outward of it. */
function leastBeyond(body: Mesh, b: Box, foot: number, top: number): { value: number; at: Vec3; samples: number } | null {
  let least: { value: number; at: Vec3 } | null = null;
  const places = between(body, foot, top).filter((q) => b.sign * q[0] > 0);
  for (const [x, y, z] of places) {
    const wall = axialX(b, y, z) as number;
    const value = b.sign * (x - wall);
    if (!least || value < least.value) least = { value, at: [wall, y, z] };
  }
  return least && { ...least, samples: places.length };
}

/** Corners of a body's triangles between two levels, and where their sides pass one of them. */
function between({ positions: q, triangles }: Mesh, low: number, high: number): Vec3[] {
  const corner = (i: number): Vec3 => [q[3 * triangles[i]], q[3 * triangles[i] + 1], q[3 * triangles[i] + 2]];
  const out: Vec3[] = [];
  for (let i = 0; i < triangles.length; i++) {
    const [from, to] = [corner(i), corner(i % 3 === 2 ? i - 2 : i + 1)];
    if (from[2] >= low && from[2] <= high) out.push(from);
    for (const level of [low, high]) {
      const share = (level - from[2]) / (to[2] - from[2]);
      if (share > 0 && share < 1) out.push(add(from, scale(sub(to, from), share)));
    }
  }
  return out;
}
