import { acrossFrom } from '../../anatomy/anatomy.ts';
import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { planeOf } from '../../linalg/plane.ts';
import { dot, scale, sub, toDegrees, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CrownContext } from '../crown/context.ts';
import { independent } from '../uncertainty/fit-error.ts';

const NAME = 'plane.incisal';
/** mm under the preparation's highest place in which the incisal cut is looked for. */
const UNDER_TOP = 1.2;
/** cosines: points that may belong to the cut at first, and those that do once its direction is known (14°). */
const UPWARD = 0.75;
const ALIKE = 0.97;
/** mm off the plane within which a point belongs to it. */
const ON = 0.06;
/** Points of a plane, and mm² that it must be, at the least. */
const LEAST = 20;
const LEAST_AREA = 0.8;

/**
 * Angle of the incisal cut to the long axis of the opposing tooth, which it meets squarely where it stands at 90°.
 * @formula 90° + what the cut falls to lingual − what the plane square to the axis does, seen from the side; cut = least-squares plane of the prepared points near the top whose normals agree within 14°, refitted without those more than 0.06 mm off it
 * @units degrees; over 90 where the cut falls to lingual of square
 * @frame tooth
 * @fails no-opposing-axis, no-plane (an edge that is rounded, or comes to a line)
 * @source own definition, docs/definitions.md
 * @example a level cut under an opposing tooth that stands along the same axis reads 90
 */
export function planeIncisal(c: CrownContext): Reading[] {
  if (!c.anterior) return [];
  const { master, alignment } = c.anatomy;
  const across = acrossFrom(master.description.tooth);
  const axis = master.landmarks.opposingAxes?.[across];
  if (!axis) return refusal(NAME, null, ['value'], 'no-opposing-axis');
  const cut = incisalCut(c);
  if (!cut) return refusal(NAME, null, ['value'], 'no-plane');
  const up = axis[2] < 0 ? scale(axis, -1) : axis;
  const U = expanded(
    // What is left of a plane between rounded edges leans to the one or the other: half of how much its own normals spread.
    cut.spread / 2,
    cut.spread / Math.sqrt(independent(cut.area, c.anatomy.region)),
    toDegrees(alignment.turnError),
    methodUncertainty(NAME, 'value'),
  );
  return [reading({ name: NAME, value: 90 + fallOf(cut.normal) - fallOf(up), U, at: { point: cut.centre }, samples: cut.samples })];
}

/** Degrees by which a plane with that normal falls to lingual, seen from the side. */
const fallOf = (normal: Vec3): number => toDegrees(Math.atan2(-normal[1], normal[2]));

interface Cut {
  readonly centre: Vec3;
  readonly normal: Vec3;
  readonly area: number;
  /** Standard deviation of its own normals' fall, degrees. */
  readonly spread: number;
  readonly samples: number;
}

/** The plane in which the edge was shortened. */
function incisalCut(c: CrownContext): Cut | null {
  const { mesh, prepared, normals, areas } = c.anatomy.region;
  const p = mesh.positions;
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const normalOf = (v: number): Vec3 => [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
  let top = Number.NEGATIVE_INFINITY;
  for (let v = 0; v < prepared.length; v++) if (prepared[v]) top = Math.max(top, p[3 * v + 2]);
  const near: number[] = [];
  for (let v = 0; v < prepared.length; v++) if (prepared[v] && p[3 * v + 2] > top - UNDER_TOP && normals[3 * v + 2] > UPWARD) near.push(v);
  let own = near;
  let fit: ReturnType<typeof planeOf> = null;
  let normal: Vec3 = [0, 0, 1];
  for (let round = 0; round < 6; round++) {
    if (own.length < LEAST) return null;
    fit = planeOf(
      own.map(at),
      own.map((v) => areas[v]),
    );
    if (!fit) return null;
    normal = fit.normal[2] < 0 ? scale(fit.normal, -1) : fit.normal;
    const { centre } = fit;
    own = near.filter((v) => dot(normalOf(v), normal) > ALIKE && (round === 0 || Math.abs(dot(sub(at(v), centre), normal)) < ON));
  }
  if (!fit || own.length < LEAST) return null;
  const area = own.reduce((s, v) => s + areas[v], 0);
  if (area < LEAST_AREA) return null;
  const falls = own.map((v) => fallOf(normalOf(v)) - fallOf(normal));
  const spread = Math.sqrt(falls.reduce((s, f, i) => s + areas[own[i]] * f * f, 0) / area);
  return { centre: fit.centre, normal, area, spread, samples: own.length };
}
