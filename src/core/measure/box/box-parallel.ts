import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toDegrees, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { Box, CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { sideWall } from './side-wall.ts';

const NAME = 'box.parallel';

interface Way {
  /** Degrees by which it leans to facial, seen along the arch. */
  readonly lean: number;
  /** Standard uncertainty, degrees. */
  readonly u: number;
}

/** The way out of a box that its side walls leave: half way between the facial and the lingual one. */
function wayOut(a: CavityAnatomy, b: Box): Way | null {
  const [facial, lingual] = [sideWall(a, b, 'facial'), sideWall(a, b, 'lingual')];
  if (!facial || !lingual) return null;
  return {
    lean: toDegrees(Math.atan((facial.alongZ + lingual.alongZ) / 2)),
    u: toDegrees(Math.hypot(facial.uAlongZ, lingual.uAlongZ) / 2),
  };
}

/**
 * Parallelism of the boxes of one preparation: of two with each other, and of each with the path of insertion. Axial walls are meant to lean apart, so what counts is how the boxes stand seen along the arch.
 * @formula difference of the leans of the boxes' ways out, and of each from the path, seen along the arch; a way out runs half way between the facial and the lingual wall; the path is the long axis for a cavity and the draw direction where a restoration is seated from outside (zone ends in `path`)
 * @units degrees, not below 0
 * @frame tooth, seen along the arch
 * @fails no-box, no-pair, no-wall
 * @source own definition, docs/definitions.md
 * @example two boxes cut with the handpiece held alike read 0
 */
export function boxParallel(a: CavityAnatomy, path: Vec3 = [0, 0, 1]): Reading[] {
  if (a.boxes.length === 0) return refusal(NAME, null, ['value'], 'no-box');
  const ways = a.boxes.map((b) => ({ b, way: wayOut(a, b) }));
  const pair = 'box mesial box distal';
  const [p, q] = ways;
  const along = { lean: toDegrees(Math.atan2(path[1], path[2])), u: toDegrees(a.alignment.turnError) };
  return [
    ...(q ? between(pair, p.way, q.way, p.b) : refusal(NAME, pair, ['value'], 'no-pair')),
    ...ways.flatMap(({ b, way }) => between(`box ${b.side} path`, way, along, b)),
  ];
}

function between(zone: string, p: Way | null, q: Way | null, at: Box): Reading[] {
  if (!p || !q) return refusal(NAME, zone, ['value'], 'no-wall');
  return [
    reading({
      name: NAME,
      zone,
      value: Math.abs(p.lean - q.lean),
      U: expanded(p.u, q.u, methodUncertainty(NAME, 'value')),
      at: { point: at.floor.centre },
    }),
  ];
}
