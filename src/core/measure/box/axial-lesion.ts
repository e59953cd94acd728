import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { axialError } from '../uncertainty/fit-error.ts';

const NAME = 'axial.lesion';
/** mm over the gingival floor from which a place of the lesion faces the axial wall. */
const OVER = 0.1;

/**
 * How much deeper the axial wall lies than the lesion that the box is cut for: axial depth minus the lesion's.
 * @formula least of (x of a place of the caries body − x of the axial wall at its height and width), inward taken as +, over the body's places over the gingival floor and under the pulpal one
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
  const q = caries.mesh.positions;
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    if (!b.axial) return refusal(NAME, zone, ['value'], 'no-wall');
    const { sign } = b;
    const top = a.pulpal?.centre[2] ?? Number.POSITIVE_INFINITY;
    let least = Number.POSITIVE_INFINITY;
    let at: Vec3 | null = null;
    let samples = 0;
    for (let i = 0; i < q.length; i += 3) {
      const [x, y, z] = [q[i], q[i + 1], q[i + 2]];
      if (sign * x <= 0 || z < b.floor.centre[2] + OVER || z > top) continue;
      samples++;
      const wall = axialX(b, y, z) as number;
      if (sign * (x - wall) >= least) continue;
      least = sign * (x - wall);
      at = [wall, y, z];
    }
    if (!at) return refusal(NAME, zone, ['value'], 'no-caries');
    const U = expanded(a.alignment.pointError, axialError(a, b), methodUncertainty(NAME, 'value'));
    return [reading({ name: NAME, zone, value: least, U, at: { point: at }, samples })];
  });
}
