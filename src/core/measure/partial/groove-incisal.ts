import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { byAxis, cross, distance, dot, sub, unit, type Vec3 } from '../../linalg/vec.ts';
import { makeMesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { cutAcross } from '../../segment/cut-across.ts';
import { cornerOfRound, lineThrough, type Place, roundCutter, wallAcross } from '../../segment/partial/notch-shape.ts';
import { median } from '../../statistics/quantile.ts';
import type { PartialContext } from './context.ts';

const NAMES = ['groove.incisal.width', 'groove.incisal.joins'] as const;
/** mm between columns across the edge, and between the places along a column's profile. */
const COLUMN = 0.25;
const PLACE = 0.08;
/** mm under the edge within which the groove runs: farther down the slope turns into the wall. */
const UNDER_EDGE = 4;
/** mm of profile to either side of a place whose ends make its chord: wider than a groove, so narrow that a hollow fossa hardly falls under it. */
const ARM = 0.85;
/** mm under its chord from which a place belongs to a groove, and share of the deepest at which its lips are. */
const LEAST_DEPTH = 0.15;
const LIP = 0.05;
/** Columns that make a groove. */
const LEAST = 4;

/** mm to either side of a column over which the groove's course is taken as straight. */
const COURSE = 0.75;

interface Notch {
  readonly line: readonly Vec3[];
  /** The rough lips' places in the line, and the deepest. */
  readonly from: number;
  readonly to: number;
  readonly at: Vec3;
}

/**
 * Incisal groove of an anterior partial crown: how wide it is, and whether it joins both proximal grooves.
 * @formula in columns 0.25 mm apart between both proximal grooves, the lingual slope's profile in (y, z) down to 4 mm under the edge; a place belongs to the groove where it lies 0.15 mm and more under the chord of the places 0.85 mm to either side; width = distance of its lips, where the round cutter's section that fits it meets the slope beside it (where none fits, where it is back to 5 % of its depth), both seen along the groove's course (a line through the deepest places within 0.75 mm), median over the columns; joins = share of the columns that show one
 * @units mm; share
 * @frame tooth
 * @fails not-on-tooth (a posterior tooth), no-pair (not two proximal grooves), no-groove-cut
 * @source own definition, docs/definitions.md
 * @example a half-round groove of 1 mm that runs from groove to groove reads 1.0 and 1
 */
export function grooveIncisal(c: PartialContext): Reading[] {
  if (!c.crown.anterior) return [];
  const refuse = (why: 'no-pair' | 'no-groove-cut'): Reading[] => [
    ...refusal(NAMES[0], null, ['median'], why),
    ...refusal(NAMES[1], null, ['share'], why),
  ];
  const xs = c.grooves.map(({ groove: g }) => g.to[0]).sort((a, b) => a - b);
  if (xs.length < 2) return refuse('no-pair');
  const [x0, x1] = [xs[0], xs[xs.length - 1]];
  const { noise } = c.crown.anatomy.alignment;
  const columns = Array.from({ length: Math.max(0, Math.floor((x1 - x0) / COLUMN)) }, (_, i) => x0 + (i + 0.5) * COLUMN);
  const found = profiles(c, columns).flatMap((line) => notchAt(line) ?? []);
  if (found.length < LEAST) return refuse('no-groove-cut');
  const widths = found.map((f) => widthOf(f, courseAt(found, f.at), noise));
  const width = median(widths);
  const scatter = (1.48 * median(widths.map((w) => Math.abs(w - width)))) / Math.sqrt(found.length / 2);
  const at = { point: found[found.length >> 1].at };
  return [
    reading({
      name: NAMES[0],
      stat: 'median',
      value: width,
      U: expanded(scatter, noise, methodUncertainty(NAMES[0], 'median')),
      at,
      samples: found.length,
    }),
    // A column at either end may belong to the proximal groove.
    reading({ name: NAMES[1], stat: 'share', value: found.length / columns.length, U: 2 / columns.length, at, samples: columns.length }),
  ];
}

/** The prepared surface near the edge cut across at every column, from lingual to facial, in even steps along the cut. */
function profiles(c: PartialContext, columns: readonly number[]): Vec3[][] {
  const { mesh, prepared, normals } = c.crown.anatomy.region;
  // Cut across x: the axes changed round, so that x is what the cut is across.
  const turned = (q: Float64Array): Float64Array => Float64Array.from(q, (_, i) => q[i - (i % 3) + ((i + 1) % 3)]);
  const m = makeMesh('tooth', turned(mesh.positions), mesh.triangles);
  const chains = cutAcross(m, turned(normals), (v) => prepared[v] === 1, columns);
  return columns.map((x, i) => {
    const lines = chains[i].map((q) => q.x.map((y, k): Vec3 => [x, y, q.y[k]]));
    const top = Math.max(...lines.flat().map((q) => q[2]), Number.NEGATIVE_INFINITY);
    const near = lines.map((line) => line.filter((q) => q[2] > top - UNDER_EDGE)).reduce((a, b) => (b.length > a.length ? b : a), []);
    if (near.length < 2) return [];
    return evenly(near[0][1] <= near[near.length - 1][1] ? near : [...near].reverse());
  });
}

/** Places a step apart along a line. */
function evenly(line: readonly Vec3[]): Vec3[] {
  const out: Vec3[] = [line[0]];
  let left = PLACE;
  for (let k = 1; k < line.length; k++) {
    const [a, b] = [line[k - 1], line[k]];
    const l = Math.hypot(b[1] - a[1], b[2] - a[2]);
    for (; left <= l; left += PLACE) out.push(byAxis((i) => a[i] + (left / l) * (b[i] - a[i])));
    left -= l;
  }
  return out;
}

/** The deepest notch of a profile; null where there is none. */
function notchAt(line: readonly Vec3[]): Notch | null {
  const under = line.map((q, i) => {
    const ends = [-1, 1].map((s) => {
      for (let j = i; j >= 0 && j < line.length; j += s) if (Math.hypot(line[j][1] - q[1], line[j][2] - q[2]) >= ARM) return line[j];
      return null;
    });
    const [a, b] = ends;
    if (!a || !b) return 0;
    const [dy, dz] = [b[1] - a[1], b[2] - a[2]];
    return (dz * (q[1] - a[1]) - dy * (q[2] - a[2])) / Math.hypot(dy, dz);
  });
  const deepest = under.reduce((best, d, i) => (d > under[best] ? i : best), 0);
  if (under.length === 0 || under[deepest] < LEAST_DEPTH) return null;
  const limit = LIP * under[deepest];
  let [from, to] = [deepest, deepest];
  while (from > 0 && under[from] > limit) from--;
  while (to < line.length - 1 && under[to] > limit) to++;
  return { line, from, to, at: line[deepest] };
}

/** mm beyond a rough lip between which the slope is taken, its places on one hand at the least, and RMS within which it is one slope. */
const SLOPE = [0.15, 0.6] as const;
const LEAST_SLOPE = 4;
const STRAIGHT = 0.03;
/** mm under the rough lips from which places are the cutter's; nearer they are blunted by the scan. */
const BLUNTED = 0.1;

/** Direction of the groove's course at one of its deepest places; unit. An edge falls to both sides of a canine's tip, and the groove with it. */
function courseAt(found: readonly Notch[], { 0: x0 }: Vec3): Vec3 {
  const near = found.map((f) => f.at).filter(([x]) => Math.abs(x - x0) <= COURSE);
  const slope = (k: 1 | 2): number => lineThrough(near.map((q): Place => [q[0], q[k]])).slope;
  return unit([1, slope(1), slope(2)]);
}

/** Distance of the lips seen along the course: where the round cutter that left the notch meets the slope beside it; of the rough lips where no cutter fits. */
function widthOf({ line: seen, from, to }: Notch, course: Vec3, noise: number): number {
  // Moved along the course into the plane across it.
  const line = seen.map((q) => byAxis((k) => q[k] - dot(sub(q, seen[from]), course) * course[k]));
  const [a, b] = [line[from], line[to]];
  const l = distance(a, b);
  const way = byAxis((k) => (b[k] - a[k]) / l);
  const out = cross(course, way);
  const local = (q: Vec3): Place => [dot(sub(q, a), way), dot(sub(q, a), out)];
  const places = line.map(local);
  const cutter = roundCutter(
    places.slice(from, to + 1).filter(([, v]) => v < -BLUNTED),
    noise,
  );
  const before = places.filter(([u], i) => i < from && -u > SLOPE[0] && -u < SLOPE[1]);
  const after = places.filter(([u], i) => i > to && u - l > SLOPE[0] && u - l < SLOPE[1]);
  const both = before.length >= LEAST_SLOPE && after.length >= LEAST_SLOPE;
  const slope = both ? wallAcross([...before, ...after], STRAIGHT) : null;
  if (!cutter || !slope) return l;
  const [p, q] = ([-1, 1] as const).map((hand) => cornerOfRound(cutter, hand, slope));
  return Math.hypot(q[0] - p[0], q[1] - p[1]);
}
