import { applyPoint } from '../../linalg/rigid.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { type Master, neighbourClosed } from '../../master/master.ts';
import { narrowestGap } from '../../measure/box/box-clearance.ts';
import { gingivalEdge } from '../../measure/box/box-size.ts';
import { cavosurfaceAlong } from '../../measure/cavity/cavosurface.ts';
import { freeDistances } from '../../measure/cavity/instrument-fit.ts';
import { isthmusWidths } from '../../measure/cavity/outline-isthmus.ts';
import { ridgeLeft } from '../../measure/cavity/outline-ridge.ts';
import { type Curves, EDGE_LENGTH } from '../../result/curves.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { OUTLINE_STEP, type OutlinePoint } from '../../segment/cavity/outline.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';

/** What is drawn of a cavity: `outline` in the master file's frame; `plan.` seen along the axis in the tooth frame (mesial, facial); the rest along the unrolled outline, as pairs [place, value]. */
export function cavityCurves(a: CavityAnatomy): Curves {
  const strip = stripOf(a);
  const angles = cavosurfaceAlong(a);
  const unrolled = (values: (i: number) => number | null): number[][] =>
    strip.flatMap(({ i, at }) => {
      const v = values(i);
      return v === null ? [] : [[at, v]];
    });
  const widths = isthmusWidths(a);
  const least = widths.length ? widths.reduce((p, q) => (q.width < p.width ? q : p)) : null;
  const free = freeDistances(a);
  const widest = free.length ? free.reduce((p, q) => (q.free > p.free ? q : p)) : null;
  const { landmarks } = a.master;
  const flat = (line: readonly (readonly number[])[]): number[][] => line.map((p) => [p[0], p[1]]);
  return {
    outline: a.outline.map((o) => [...applyPoint(a.master.fromTooth, o.p)]),
    [EDGE_LENGTH]: unrolled(() => OUTLINE_STEP),
    cavosurface: unrolled((i) => angles[i]),
    clearance: unrolled((i) => clearanceAt(a, a.outline[i].p)),
    'strip.azimuth': unrolled((i) => azimuthOf(a.outline[i].p[0], a.outline[i].p[1])),
    'strip.sides': sidesOf(a, strip),
    'plan.outline': flat(a.plan),
    'plan.tooth': silhouette(a.master),
    'plan.cusps': landmarks.cusps.map((c) => [c.at[0], c.at[1]]),
    ...Object.fromEntries(landmarks.grooves.map((g) => [`plan.groove.${g.name}`, flat(g.line)])),
    'plan.ridge.mesial': flat(landmarks.ridges.mesial),
    'plan.ridge.distal': flat(landmarks.ridges.distal),
    'plan.ridge.oblique': flat(landmarks.ridges.oblique),
    ...(least ? { 'plan.isthmus': [[...least.from], [...least.to]] } : {}),
    ...(widest ? { 'plan.condenser': [[widest.x, widest.y, widest.free]] } : {}),
    ...marksOf(a),
    ...Object.fromEntries(a.boxes.map((b) => [`plan.gingival.${b.side}`, alongArch(gingivalEdge(a, b))])),
  };
}

/** The edge of a box's floor from lingual to facial: the outline's own order may begin in its middle. */
const alongArch = (edge: readonly OutlinePoint[]): number[][] => edge.map((o) => [o.p[0], o.p[1]]).sort((p, q) => p[1] - q[1]);

/** mm: a remaining ridge wider than this counts as uncut tooth. */
const WIDE_RIDGE = 3;

/** Widths that are drawn on the plan from place to place: ridges that are left, gaps to the neighbours. */
function marksOf(a: CavityAnatomy): Curves {
  const marks: Record<string, number[][]> = {};
  for (const side of ['mesial', 'distal'] as const) {
    if (a.boxes.some((b) => b.side === side)) continue;
    const ridge = ridgeLeft(a, side);
    if (!ridge || ridge.width > WIDE_RIDGE) continue;
    const [x, y] = ridge.at.p;
    marks[`plan.mark.ridge ${side}`] = [
      [x, y],
      [x + (side === 'mesial' ? 1 : -1) * ridge.width, y],
    ];
  }
  for (const b of a.boxes)
    for (const which of ['facial', 'lingual', 'gingival'] as const) {
      const gap = narrowestGap(a, b, which);
      // The third number is the width in space: seen along the axis a gap under the contact looks shorter.
      if (gap)
        marks[`plan.mark.gap ${b.side} ${which}`] = [
          [gap.at.p[0], gap.at.p[1], gap.width],
          [gap.across[0], gap.across[1], gap.width],
        ];
    }
  return marks;
}

interface StripPlace {
  readonly i: number;
  /** 0 to 360 by length along the outline, from its facial end over mesial, lingual and distal. */
  readonly at: number;
}

/** The outline unrolled: each place by its share of the length. */
function stripOf(a: CavityAnatomy): StripPlace[] {
  const n = a.outline.length;
  if (n === 0) return [];
  const first = furthest(a, 1, 1);
  return a.outline.map((_, k) => ({ i: (first - k + n) % n, at: (360 * k) / n }));
}

/** Place of the outline furthest along an axis of the plan (0 mesial, 1 facial) in a direction. */
const furthest = (a: CavityAnatomy, axis: 0 | 1, sign: 1 | -1): number =>
  a.plan.reduce((best, p, i) => (sign * p[axis] > sign * a.plan[best][axis] ? i : best), 0);

/** Where on the strip the outline's mesial, lingual and distal ends lie, in this order. */
function sidesOf(a: CavityAnatomy, strip: readonly StripPlace[]): number[][] {
  if (strip.length === 0) return [];
  const ends = [furthest(a, 0, 1), furthest(a, 1, -1), furthest(a, 0, -1)];
  return ends.map((i, k) => [strip.find((s) => s.i === i)?.at ?? 0, k + 1]);
}

/** Gap from an outline place to the neighbour on its side, where that is within 3 mm. */
function clearanceAt(a: CavityAnatomy, p: readonly [number, number, number]): number | null {
  const neighbour = neighbourClosed(a.master, p[0] > 0 ? 'mesial' : 'distal');
  const box = a.boxes.find((b) => b.sign * p[0] > 0);
  const hit = newClosest();
  if (!neighbour || !box || !closestPoint(neighbour, p[0], p[1], p[2], hit, 3)) return null;
  return Math.sqrt(hit.distanceSquared);
}

/** Outer contour of the target seen along the axis, every 4°. */
function silhouette(m: Master): number[][] {
  const reach = new Float64Array(90);
  const p = m.target.mesh.positions;
  for (let i = 0; i < p.length; i += 3) {
    const k = Math.floor(azimuthOf(p[i], p[i + 1]) / 4) % 90;
    reach[k] = Math.max(reach[k], Math.hypot(p[i], p[i + 1]));
  }
  return Array.from(reach, (r, k) => {
    const q = radialPoint(4 * k + 2, r, 0);
    return [q[0], q[1]];
  });
}
