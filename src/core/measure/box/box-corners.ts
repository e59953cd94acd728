import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { independent } from '../uncertainty/fit-error.ts';
import { sideWall } from './side-wall.ts';

const NAME = 'box.corners';
/** mm from the corner between which the axial wall's run is taken: beyond the rounding between both. */
const RUN = [0.65, 1.35] as const;
/** Points of that stretch at the least. */
const LEAST = 12;

/**
 * Inside angles of the box in plan: between the axial wall and the facial and the lingual wall, at the level of the gingival floor.
 * @formula angle between the axial wall's run from 0.65 to 1.35 mm from the corner, x = a + by + cz, and the side wall's line, y = d + ex, both by least squares
 * @units degrees
 * @frame tooth, seen along the axis
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example walls square to each other read 90; a box that opens outward reads more
 */
export function boxCorners(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b) =>
    (['facial', 'lingual'] as const).flatMap((side): Reading[] => {
      const zone = `box ${b.side} ${side}`;
      const wall = sideWall(a, b, side);
      if (!wall || !b.axial) return refusal(NAME, zone, ['value'], 'no-wall');
      const z = b.floor.centre[2];
      // Two rounds bring the corner to where both lines meet.
      let y = wall.y(b.floor.centre[0], z);
      for (let i = 0; i < 2; i++) y = wall.y(axialX(b, y) as number, z);
      const inward = side === 'facial' ? -1 : 1;
      const along = tangentBeside(a, b, y, inward);
      if (!along) return refusal(NAME, zone, ['value'], 'no-wall');
      const { slope } = along;
      // Along the axial wall away from the corner, and along the side wall out of the tooth.
      const u = [slope * inward, inward];
      const v = [b.sign, b.sign * wall.alongX];
      const cosine = (u[0] * v[0] + u[1] * v[1]) / Math.hypot(...u) / Math.hypot(...v);
      return [
        reading({
          name: NAME,
          zone,
          value: toDegrees(Math.acos(Math.max(-1, Math.min(1, cosine)))),
          U: expanded(toDegrees(along.u), toDegrees(wall.uAlongX), methodUncertainty(NAME, 'value')),
          at: { point: [axialX(b, y) as number, y, z] },
          samples: b.axial.fitted.length,
        }),
      ];
    }),
  );
}

/** How the axial wall runs beside a corner, mm along the arch per mm to facial, and how well that is known. */
function tangentBeside(a: CavityAnatomy, b: Box, corner: number, inward: number): { slope: number; u: number } | null {
  const p = a.region.mesh.positions;
  const own = (b.axial?.vertices ?? []).filter((v) => {
    const from = inward * (p[3 * v + 1] - corner);
    return from >= RUN[0] && from <= RUN[1];
  });
  if (own.length < LEAST) return null;
  const fit = leastSquares(own.map((v) => ({ f: [1, p[3 * v + 1] - corner, p[3 * v + 2]], x: p[3 * v], w: a.region.areas[v] })));
  if (!fit) return null;
  const off = own.map((v) => p[3 * v] - fit[0] - fit[1] * (p[3 * v + 1] - corner) - fit[2] * p[3 * v + 2]);
  const rms = Math.sqrt(off.reduce((s, d) => s + d * d, 0) / off.length);
  const area = own.reduce((s, v) => s + a.region.areas[v], 0);
  // Evenly spread over its length, places vary by a twelfth of its square.
  return { slope: fit[1], u: (rms * Math.sqrt(12)) / (RUN[1] - RUN[0]) / Math.sqrt(independent(area, a.region)) };
}
