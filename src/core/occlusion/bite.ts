import { coarseAlign, refineFrom, turnOnto } from '../align/coarse.ts';
import { type Sample, sampleSurface } from '../align/sample.ts';
import { applyDirection, applyPoint, fromRotation, fromTranslation, invertRigid, type Matrix, multiply } from '../linalg/rigid.ts';
import { add, byAxis, length, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { closestPoint, newClosest, onBorder, type Surface } from '../spatial/surface.ts';

/** Points of the bite scan that are laid on each jaw, and mm within which one lies on it. */
const POINTS = 5000;
const ON = 0.25;
/** Share of what is looked at that must lie on a jaw. */
const LEAST = 0.25;

/** What is known of the arch: the middle of the target's biting surface, and its directions. */
export interface Facing {
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly facial: Vec3;
  readonly mesial: Vec3;
}

/**
 * Where the opposing arch stands against the arch, from a scan that shows both in the bite: the facial side of the closed jaws, or the
 * mounted pair whole. It is laid on the arch; what lies there is set aside, and the rest is laid on the opposing arch.
 * @units opposing file frame → arch file frame, mm
 * @fails occlusion.bite, where too little of it lies on one of the jaws
 */
export function placeByBite(bite: Mesh, arch: Surface, opposing: Surface, facing: Facing): Matrix {
  const all = sampleSurface(bite, POINTS);
  const onArch = laidOn(all, arch, 'the arch', { starts: fromFacialSide(all, facing) });
  const rest = without(all, arch, onArch);
  // The opposing teeth look against the arch's own: that leaves one turn to be found.
  const against = scale(applyDirection(invertRigid(onArch), facing.axis), -1);
  const onOpposing = laidOn({ ...rest, openness: against }, opposing, 'the opposing arch', {});
  return multiply(onArch, invertRigid(onOpposing));
}

/** mm along the arch and outward from the target at which the middle of a bite scan is looked for. */
const ALONG = [-12, -6, 0, 6, 12];
const OUTWARD = [0, 5];
const TURNS = 24;

/** A shell looks to the facial side; which way is up on it, and where along the arch it lies, is tried. A closed body is tried all ways. */
function fromFacialSide(s: Sample, f: Facing): Matrix[] {
  const middle: Vec3 = byAxis((k) => mean(s.points, k));
  const facing = length(s.openness) > 0.2 ? [unit(s.openness)] : SIX;
  return facing.flatMap((normal) =>
    Array.from({ length: TURNS }, (_, k) => {
      const turn = multiply(fromRotation(f.facial, (2 * Math.PI * k) / TURNS), turnOnto(normal, f.facial));
      const own = applyDirection(turn, middle);
      return ALONG.flatMap((a) =>
        OUTWARD.map((o) => multiply(fromTranslation(sub(add(f.at, add(scale(f.mesial, a), scale(f.facial, o))), own)), turn)),
      );
    }).flat(),
  );
}

const SIX: readonly Vec3[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

function mean(points: Float64Array, k: number): number {
  let sum = 0;
  for (let i = k; i < points.length; i += 3) sum += points[i];
  return (3 * sum) / points.length;
}

function laidOn(sample: Sample, jaw: Surface, which: string, options: { starts?: readonly Matrix[] }): Matrix {
  const found = coarseAlign(sample, jaw, options);
  const fit = refineFrom(sample, jaw, found.matrix);
  if (fit.share < LEAST)
    throw new Fault('occlusion.bite', {
      expected: 'a bite scan shows the sides of both jaws, closed',
      received: `${Math.round(100 * fit.share)} % of it lies on ${which}`,
      remedy: 'Scan the closed jaws from the facial side over three teeth or more, or bring the jaws together by three points.',
    });
  return fit.matrix;
}

/** The points that do not lie on a jaw. */
function without(s: Sample, jaw: Surface, pose: Matrix): Sample {
  const hit = newClosest();
  const kept: number[] = [];
  for (let i = 0; i < s.count; i++) {
    const p = applyPoint(pose, [s.points[3 * i], s.points[3 * i + 1], s.points[3 * i + 2]]);
    if (!closestPoint(jaw, p[0], p[1], p[2], hit, ON) || onBorder(jaw, hit)) kept.push(i);
  }
  const pick = (list: Float64Array): Float64Array =>
    Float64Array.from(kept.flatMap((i) => [list[3 * i], list[3 * i + 1], list[3 * i + 2]]));
  return { count: kept.length, points: pick(s.points), normals: pick(s.normals), areaEach: s.areaEach, openness: [0, 0, 0] };
}
