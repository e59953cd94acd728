import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { wrapDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { OUTLINE_STEP } from '../../segment/cavity/outline.ts';
import { mean } from '../../statistics/quantile.ts';
import { sideMargin } from '../box/box-clearance.ts';
import { exitError } from '../uncertainty/outline-error.ts';
import { cavosurfaceAlong } from './cavosurface.ts';

/** mm between the middles of the two stretches whose headings are compared, and degrees that it must turn back to be a reverse curve. */
const WINDOW = 5 * OUTLINE_STEP;
const LEAST_TURN = 6;
/** mm before and beyond the axial wall between which occlusal outline and box meet. */
const STRETCH = [-2.2, 1.4] as const;

/**
 * Reverse curve: where the occlusal outline swings round the triangular ridge into the box's facial wall, it bends towards the
 * cavity. Its tightest radius there, and the exit angle of the box's facial margin that it is cut for.
 * @formula radius = 0.5 mm ÷ the largest turn towards the cavity between the headings of 0.3 mm of facial outline before and behind a place beside the axial wall; exit = mean cavosurface angle along the box's facial margin
 * @units mm; degrees
 * @frame tooth, seen along the axis
 * @fails no-outline, no-reverse-curve
 * @source own definition, docs/definitions.md
 * @example an outline that runs straight into the box has none
 */
export function reverseCurve(a: CavityAnatomy): Reading[] {
  if (!a.pulpal) return [];
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    const n = a.plan.length;
    if (n < 40)
      return [
        ...refusal('reversecurve.radius', zone, ['min'], 'no-outline'),
        ...refusal('reversecurve.exit', zone, ['mean'], 'no-outline'),
      ];
    /** Heading of the four places from k on, degrees: from the middle of the first two to that of the last two. */
    const heading = (k: number): number => {
      const [p, q, r, s] = [0, 1, 2, 3].map((j) => a.plan[(k + j + n) % n]);
      return (Math.atan2(r[1] + s[1] - p[1] - q[1], r[0] + s[0] - p[0] - q[0]) * 180) / Math.PI;
    };
    let turn = 0;
    let where = -1;
    a.outline.forEach((o, i) => {
      const wall = axialX(b, o.p[1]);
      if (wall === null || o.p[1] < b.floor.centre[1] || Math.abs(o.tangent[2]) > 0.6) return;
      const along = b.sign * (o.p[0] - wall);
      if (along < STRETCH[0] || along > STRETCH[1]) return;
      // The outline runs counter-clockwise: turning right is bending towards the cavity.
      const own = wrapDegrees(heading(i + 1) - heading(i - 4));
      if (own < turn) {
        turn = own;
        where = i;
      }
    });
    const angles = cavosurfaceAlong(a);
    const margin = new Set(sideMargin(a, b, 'facial'));
    const exits = a.outline.flatMap((o, i) => (margin.has(o) && angles[i] !== null ? [angles[i] as number] : []));
    const places = a.outline.filter((o) => margin.has(o));
    const radius = WINDOW / ((Math.abs(turn) * Math.PI) / 180);
    return [
      ...(where < 0 || -turn < LEAST_TURN
        ? refusal('reversecurve.radius', zone, ['min'], 'no-reverse-curve')
        : [
            reading({
              name: 'reversecurve.radius',
              zone,
              stat: 'min',
              value: radius,
              // A turn is known to about 4°: the gentler the curve, the less its radius is. The outline's own blur opens tight ones.
              U: expanded((radius * 4) / Math.abs(turn), 0.12),
              at: { point: a.outline[where].p },
            }),
          ]),
      ...(exits.length < 4
        ? refusal('reversecurve.exit', zone, ['mean'], 'no-outline')
        : [
            reading({
              name: 'reversecurve.exit',
              zone,
              stat: 'mean',
              value: mean(exits),
              U: expanded(exitError(a, places), methodUncertainty('reversecurve.exit', 'mean')),
              samples: exits.length,
            }),
          ]),
    ];
  });
}
