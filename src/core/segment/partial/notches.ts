import { azimuthOf } from '../../linalg/sectors.ts';
import { type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../../spatial/surface.ts';
import { mean } from '../../statistics/quantile.ts';

/** mm between the places along a contour: a tenth of a groove’s radius. */
export const PLACE = 0.05;

/** mm each side of a place in which the lips of a notch are looked for. */
const REACH = 2.2;

/** A notch: at least this deep (mm), with sides steeper than this against the wall between them. */
const LEAST_DEPTH = 0.15;

/** Least tangent of a notch’s sides against the wall: a wave of the hand is flatter. */
const STEEP = 0.45;

/** mm RMS: a wall beside a notch that lies farther off a straight line has a step in it. */
const STRAIGHT = 0.03;

/** mm over which a side's steepness is taken. */
const LOOK = 0.2;

/** mm beyond a lip between which the wall's own direction is taken. */
const BESIDE = [0.15, 0.9] as const;

/** Places along a contour, azimuth growing; null where it is not this side's steep wall. */
export type Contour = readonly (readonly [number, number] | null)[];

export interface Notch {
  readonly z: number;
  readonly azimuth: number;
  readonly depth: number;
  readonly width: number;
  readonly bottom: Vec3;
  /** Out of the notch, perpendicular to its chord; level, unit. */
  readonly out: readonly [number, number];
}

/** Notches of one contour: places under the chord of their surroundings whose two sides are steep and end in lips. */
export function notchesOf(line: Contour, z: number, master: Surface<'tooth'>): Notch[] {
  const under = line.map((_, k) => underChord(line, k));
  const out: Notch[] = [];
  for (let k = 0; k < line.length; k++) {
    if (under[k] < LEAST_DEPTH) continue;
    let highest = true;
    for (let j = -4; j <= 4 && highest; j++) if ((under[k + j] ?? 0) > under[k]) highest = false;
    if (!highest) continue;
    const notch = notchAt(line, k, z, master);
    if (!notch) continue;
    // A step beside a groove makes a wider notch of both: the narrower one is the groove.
    const same = out.findIndex((n) => Math.abs(wrapDegrees(n.azimuth - notch.azimuth)) < SAME);
    if (same < 0) out.push(notch);
    else if (notch.width < out[same].width) out[same] = notch;
  }
  return out;
}

const at = (line: Contour, k: number): readonly [number, number] | null => line[k] ?? null;

/** Places looked at on each side of one. */
const LOOKED = 60;

/** The places each side (after, before) from which chords are drawn, x and y in turn: filled anew for each place of a contour. */
const SIDES = [new Float64Array(2 * LOOKED), new Float64Array(2 * LOOKED)] as const;

/** Largest distance of a place under the chords between places each side of it. */
function underChord(line: Contour, k: number): number {
  const rough = underChords(line, k, 5);
  return rough < 0.6 * LEAST_DEPTH ? rough : underChords(line, k, 2);
}

/** Writes every `every`-th place on one hand within reach into `to`; returns how many numbers. */
function placesOn(line: Contour, k: number, sign: 1 | -1, every: number, to: Float64Array): number {
  const c = line[k] as readonly [number, number];
  let n = 0;
  for (let j = 1; j < LOOKED; j++) {
    const q = at(line, k + sign * j);
    if (!q) continue;
    if ((q[0] - c[0]) ** 2 + (q[1] - c[1]) ** 2 > REACH * REACH) break;
    if (j % every !== 1) continue;
    to[n++] = q[0];
    to[n++] = q[1];
  }
  return n;
}

function underChords(line: Contour, k: number, every: number): number {
  const c = line[k];
  if (!c) return 0;
  let most = 0;
  const [after, before] = SIDES;
  const last = placesOn(line, k, 1, every, after);
  const first = placesOn(line, k, -1, every, before);
  for (let i = 0; i < first; i += 2) {
    const x = c[0] - before[i];
    const y = c[1] - before[i + 1];
    for (let j = 0; j < last; j += 2) {
      const dx = after[j] - before[i];
      const dy = after[j + 1] - before[i + 1];
      // Walking on in azimuth, the axis lies to the right of the chord: a place nearer to the axis is under it.
      const under = dy * x - dx * y;
      if (under <= 0 || under * under <= most * most * (dx * dx + dy * dy)) continue;
      most = under / Math.sqrt(dx * dx + dy * dy);
    }
  }
  return most;
}

function notchAt(line: Contour, k: number, z: number, master: Surface<'tooth'>): Notch | null {
  const c = at(line, k) as readonly [number, number];
  // Steep is meant against the tooth's own side: a step across the wall has one side that runs along with it.
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  closestPoint(master, c[0], c[1], z, hit);
  pseudoNormal(master, hit, normal);
  const l0 = Math.hypot(normal[0], normal[1]);
  if (l0 < 0.3) return null;
  const first = [normal[1] / l0, -normal[0] / l0] as const;
  const along = wallAbout(line, k, first);
  const out = [-along[1], along[0]] as const;
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    (q[0] - c[0]) * out[0] + (q[1] - c[1]) * out[1],
  ];
  const lips = ([1, -1] as const).map((sign) => lip(line, k, sign, local));
  const [e, b] = lips;
  if (!e || !b) return null;
  const l = Math.hypot(e[0] - b[0], e[1] - b[1]);
  const chord = [(e[0] - b[0]) / l, (e[1] - b[1]) / l] as const;
  /** Along the chord, across it, and under it. */
  const places: { s: number; t: number; depth: number }[] = [];
  for (let j = -b[2]; j <= e[2]; j++) {
    const q = at(line, k + j);
    if (!q) continue;
    const [u, v] = local(q);
    places.push({ s: u * chord[0] + v * chord[1], t: -u * chord[1] + v * chord[0], depth: (u - b[0]) * chord[1] - (v - b[1]) * chord[0] });
  }
  // The bottom is a fifth of the notch's places: fewer would be noise, more the sides of a round one.
  const bottoms = [...places].sort((p, q) => q.depth - p.depth).slice(0, Math.max(3, Math.round(places.length / 5)));
  const depth = mean(bottoms.map((q) => q.depth));
  if (depth < LEAST_DEPTH || l > 2 * REACH) return null;
  // The notch's course is fitted to all its deep points, since the lips alone are two noisy points.
  const weight = (q: { depth: number }): number => Math.max(0, q.depth - LIPS * depth);
  const total = places.reduce((sum, q) => sum + weight(q), 0);
  const s = places.reduce((sum, q) => sum + weight(q) * q.s, 0) / total;
  const t = mean(bottoms.map((q) => q.t));
  const [u, v] = [s * chord[0] - t * chord[1], s * chord[1] + t * chord[0]];
  const bottom: Vec3 = [c[0] + u * along[0] + v * out[0], c[1] + u * along[1] + v * out[1], z];
  const way = [-chord[1] * along[0] + chord[0] * out[0], -chord[1] * along[1] + chord[0] * out[1]] as const;
  return { z, azimuth: azimuthOf(bottom[0], bottom[1]), depth, width: l, bottom, out: way };
}

/**
 * Direction of the wall about a notch: the mean of both sides' where both run straight on, so that a curved wall does not turn
 * it; of the lingual side alone where the other meets a step; `along` where too little was seen.
 */
function wallAbout(line: Contour, k: number, along: readonly [number, number]): readonly [number, number] {
  const c = at(line, k) as readonly [number, number];
  const lingual = azimuthOf(c[0], c[1]) < 180 ? 1 : -1;
  const own = wallBeside(line, k, along, lingual);
  if (!own) return along;
  const other = wallBeside(line, k, along, lingual === 1 ? -1 : 1);
  if (!other || other.off > STRAIGHT || own.off > STRAIGHT) return own.way;
  const [x, y] = [own.way[0] + other.way[0], own.way[1] + other.way[1]];
  const l = Math.hypot(x, y);
  return [x / l, y / l];
}

/** Direction of the wall beyond the notch's lip on one hand, and how far its places lie off that line; null when too little was seen. */
function wallBeside(
  line: Contour,
  k: number,
  along: readonly [number, number],
  sign: 1 | -1,
): { way: readonly [number, number]; off: number } | null {
  const c = at(line, k) as readonly [number, number];
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    -(q[0] - c[0]) * along[1] + (q[1] - c[1]) * along[0],
  ];
  const from = lip(line, k, sign, local);
  if (!from) return null;
  const wall = Array.from({ length: 60 }, (_, j) => at(line, k + sign * (j + 1)))
    .flatMap((q) => (q ? [local(q)] : []))
    .filter(([u]) => Math.abs(u - from[0]) > BESIDE[0] && Math.abs(u - from[0]) < BESIDE[1] && u * sign > from[0] * sign);
  if (wall.length < 5) return null;
  const mu = wall.reduce((s, q) => s + q[0], 0) / wall.length;
  const mv = wall.reduce((s, q) => s + q[1], 0) / wall.length;
  const slope = wall.reduce((s, q) => s + (q[0] - mu) * (q[1] - mv), 0) / wall.reduce((s, q) => s + (q[0] - mu) ** 2, 0);
  const l = Math.hypot(1, slope);
  const off = Math.sqrt(mean(wall.map((q) => (q[1] - mv - slope * (q[0] - mu)) ** 2))) / l;
  return { way: [(along[0] - slope * along[1]) / l, (along[1] + slope * along[0]) / l], off };
}

/** Where the notch's side on one hand levels out: (along, outward) from the bottom and how many places on; null when it has no steep side there. */
function lip(
  line: Contour,
  k: number,
  sign: 1 | -1,
  local: (q: readonly [number, number]) => [number, number],
): readonly [number, number, number] | null {
  // The side's places in order; a gap of a few may be a scanner's, a longer one ends the wall.
  const way: [number, number, number][] = [[0, 0, 0]];
  for (let j = 1, gap = 0; j < 60 && gap <= 3; j++) {
    const q = at(line, k + sign * j);
    if (!q) {
      gap++;
      continue;
    }
    gap = 0;
    const [u, v] = local(q);
    way.push([u, v, j]);
    if (Math.abs(u) > REACH) break;
  }
  let climbing = false;
  for (let i = 0; i < way.length; i++) {
    const [u, v] = way[i];
    const ahead = way.slice(i + 1).find((q) => Math.hypot(q[0] - u, q[1] - v) >= LOOK);
    // Steepness over a fifth of a millimetre: from place to place it would be noise.
    const steep = ahead !== undefined && ahead[1] - v > STEEP * Math.abs(ahead[0] - u);
    if (steep) climbing = true;
    else if (climbing && v > LEAST_DEPTH) {
      // The corner: the place that stands out most among the following points.
      const near = way.slice(i).filter((q) => Math.hypot(q[0] - u, q[1] - v) <= LOOK);
      const corner = near.reduce((a, b) => (b[1] - STEEP * Math.abs(b[0]) > a[1] - STEEP * Math.abs(a[0]) ? b : a));
      return corner;
    }
  }
  return null;
}

/** Share of a notch's depth under its lips that does not count for where it runs. */
const LIPS = 0.3;

/** degrees within which two tracks at the same heights are one groove read twice. */
export const SAME = 25;
