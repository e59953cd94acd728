import { smoothed } from '../../linalg/plan.ts';
import { DEG, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';

const NAME = 'outline.step';
/** mm to either side of the axial wall, along the arch, within which occlusal outline and box run into each other. */
const NEAR = 1.2;
/** mm of outline over which it is seen to turn: sharper corners than this and the outline's own blur allow read 0.26 mm. */
const WINDOW = 0.3;
/** mm by which the outline's blur opens a corner, and share of a radius that a turn's own uncertainty makes. */
const BLUR = 0.1;
const SHARE = 0.15;
/** Rise of the outline along its own way up to which it runs level, and up to which it still may. */
const LEVEL = 0.6;
const STEEP = 0.8;
/** degrees that the outline turns at the least where there is a corner at all. */
const LEAST_TURN = 12;

/**
 * Step where the occlusal outline runs into a box: the tightest radius of the outline there, either way.
 * @formula 0.3 mm ÷ the largest turn within 0.3 mm of outline, seen along the axis, within 1.2 mm of the axial wall to either side
 * @units mm
 * @frame tooth, seen along the axis
 * @fails no-box, no-outline, no-wall, no-corner (the outline runs into the box without one)
 * @source own definition, docs/definitions.md
 * @example a quarter of a circle of 0.6 mm between channel and box reads 0.6
 */
export function outlineStep(a: CavityAnatomy): Reading[] {
  if (a.boxes.length === 0) return refusal(NAME, null, ['min'], 'no-box');
  const n = a.plan.length;
  const fine = smoothed(a.plan, 1);
  const heading = (i: number): number => {
    const [p, q] = [fine[(i + n) % n], fine[(i + 1 + n) % n]];
    return Math.atan2(q[1] - p[1], q[0] - p[0]);
  };
  const turns = a.plan.map((_, i) => Math.abs(wrapDegrees((heading(i + 1) - heading(i - 2)) / DEG)));
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    if (!b.axial) return refusal(NAME, zone, ['min'], 'no-wall');
    if (n < 40) return refusal(NAME, zone, ['min'], 'no-outline');
    const sharpest = (steepest: number): { at: Vec3; turn: number } | null =>
      a.outline.reduce<{ at: Vec3; turn: number } | null>((best, o, i) => {
        const isBeside = Math.abs(o.p[0] - (axialX(b, o.p[1]) as number)) < NEAR && Math.abs(o.tangent[2]) < steepest;
        return isBeside && turns[i] > (best?.turn ?? LEAST_TURN) ? { at: o.p, turn: turns[i] } : best;
      }, null);
    const found = sharpest(LEVEL);
    if (!found) return refusal(NAME, zone, ['min'], 'no-corner');
    const radius = WINDOW / (found.turn * DEG);
    // A sharper corner where the outline already turns down the side: whether it belongs to the step is open.
    const open = radius - WINDOW / ((sharpest(STEEP)?.turn ?? found.turn) * DEG);
    return [
      reading({
        name: NAME,
        zone,
        stat: 'min',
        value: radius,
        U: expanded(BLUR, SHARE * radius, 0.5 * open),
        at: { point: found.at },
        samples: n,
      }),
    ];
  });
}
