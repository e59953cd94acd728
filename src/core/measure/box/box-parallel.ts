import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { angleBetween, toDegrees, unit, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { Box, CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { axialSlopeError } from '../uncertainty/fit-error.ts';
import { sideWall } from './side-wall.ts';

const NAME = 'box.parallel';

interface Way {
  readonly direction: Vec3;
  /** Standard uncertainty, degrees. */
  readonly u: number;
}

/** The way out of a box that its own walls leave: along the axial wall, half way between the facial and the lingual one. */
function wayOut(a: CavityAnatomy, b: Box): Way | null {
  const [facial, lingual] = [sideWall(a, b, 'facial'), sideWall(a, b, 'lingual')];
  if (!facial || !lingual || !b.axial) return null;
  const y = b.floor.centre[1];
  const across = b.axial.b + 2 * b.axial.c * y;
  const [alongX, alongZ] = [(facial.alongX + lingual.alongX) / 2, (facial.alongZ + lingual.alongZ) / 2];
  // x' = d + q y' on the axial wall and y' = e x' + f between the side walls, per mm of height.
  const x = (b.axial.d + across * alongZ) / (1 - across * alongX);
  return {
    direction: unit([x, alongX * x + alongZ, 1]),
    u: toDegrees(Math.hypot(axialSlopeError(a, b, y).up, facial.uAlongZ / 2, lingual.uAlongZ / 2)),
  };
}

/**
 * Parallelism of the boxes of one preparation: of two with each other, and of each with the path of insertion.
 * @formula angle between the boxes' ways out, and of each to the path; a way out runs along the axial wall, half way between the facial and the lingual wall; the path is the long axis for a cavity and the draw direction where a restoration is seated from outside (zone ends in `path`)
 * @units degrees, not below 0
 * @frame tooth
 * @fails no-box, no-pair, no-wall
 * @source own definition, docs/definitions.md
 * @example two boxes cut with the handpiece held alike read 0
 */
export function boxParallel(a: CavityAnatomy, path: Vec3 = [0, 0, 1]): Reading[] {
  if (a.boxes.length === 0) return refusal(NAME, null, ['value'], 'no-box');
  const ways = a.boxes.map((b) => ({ b, way: wayOut(a, b) }));
  const pair = 'box mesial box distal';
  const [p, q] = ways;
  return [
    ...(q ? between(pair, p.way, q.way, p.b) : refusal(NAME, pair, ['value'], 'no-pair')),
    ...ways.flatMap(({ b, way }) => between(`box ${b.side} path`, way, { direction: path, u: toDegrees(a.alignment.turnError) }, b)),
  ];
}

function between(zone: string, p: Way | null, q: Way | null, at: Box): Reading[] {
  if (!p || !q) return refusal(NAME, zone, ['value'], 'no-wall');
  return [
    reading({
      name: NAME,
      zone,
      value: angleBetween(p.direction, q.direction),
      U: expanded(p.u, q.u, methodUncertainty(NAME, 'value')),
      at: { point: at.floor.centre },
    }),
  ];
}
