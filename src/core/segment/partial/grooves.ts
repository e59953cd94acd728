import { azimuthOf } from '../../linalg/sectors.ts';
import { DEG, unit, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../../spatial/surface.ts';
import { mean, median } from '../../statistics/quantile.ts';
import type { CrownAnatomy } from '../crown/crown.ts';
import { type CrossChain, cutAcross } from '../cut-across.ts';

/** A groove (or a box cut like one) that runs up a prepared axial wall. */
export interface Groove {
  /** degrees, of its middle */
  readonly azimuth: number;
  /** Medians over its height, mm. */
  readonly depth: number;
  readonly width: number;
  /** Along the line of its bottom, occlusally; and how well that is known, degrees. */
  readonly direction: Vec3;
  readonly u: number;
  readonly from: Vec3;
  readonly to: Vec3;
  /** Levels at which it was seen. */
  readonly levels: number;
}

/** mm between the levels at which the wall is cut across, and between the places along a contour. */
const LEVEL = 0.12;
const PLACE = 0.05;
/** degrees that a contour must run round the tooth. */
const LEAST_TURN = 40;
/** mm each side of a place in which the lips of a notch are looked for. */
const REACH = 2.2;
/** A notch: at least this deep (mm), with sides steeper than this against the wall between them. */
const LEAST_DEPTH = 0.15;
const STEEP = 0.45;
/** mm of height over which a notch must run to be a groove. */
const LEAST_LENGTH = 0.8;
/** A groove runs up the wall: cosine to the axis; and it is straight, which its direction's uncertainty (degrees) shows. */
const STEEPEST = Math.cos(18 * DEG);
const LEAST_KNOWN = 2.5;
/** mm RMS: a wall beside a notch that lies farther off a straight line has a step in it. */
const STRAIGHT = 0.03;
/** Share of a notch's depth under its lips that does not count for where it runs. */
const LIPS = 0.3;
/** mm over which a side's steepness is taken. */
const LOOK = 0.2;
/** mm beyond a lip between which the wall's own direction is taken. */
const BESIDE = [0.15, 0.9] as const;
/** Share of its usual width by which a notch at one level may differ. */
const OTHER_WIDTH = 0.7;
/** degrees within which two tracks at the same heights are one groove read twice. */
const SAME = 25;
/** Half planes beyond the covered ones that are looked at. */
const BEYOND = 8;
/** degrees that a groove may wander between levels. */
const LINK = 7;
/** Walls steeper than this (cosine of the normal to the axis) are cut; tables and cusp slopes are not. */
const WALL_Z = 0.6;

/** Places along a contour, azimuth growing; null where it is not this side's steep wall. */
type Contour = readonly (readonly [number, number] | null)[];
interface Notch {
  readonly z: number;
  readonly azimuth: number;
  readonly depth: number;
  readonly width: number;
  readonly bottom: Vec3;
}

/**
 * Grooves in the outer wall: at every level the wall is cut across the axis; a notch in that contour has two lips, where its
 * steep sides level out; notches over one another are a groove.
 */
export function groovesOf(a: CrownAnatomy): Groove[] {
  const notches = contours(a).flatMap(({ z, line }) => notchesOf(line, z, a.master.target));
  const tracks: Notch[][] = [];
  for (const n of notches) {
    const t = tracks.find((q) => {
      const last = q[q.length - 1];
      return n.z > last.z && n.z - last.z < 2.5 * LEVEL && Math.abs(wrapDegrees(n.azimuth - last.azimuth)) < LINK;
    });
    if (t) t.push(n);
    else tracks.push([n]);
  }
  return tracks
    .map(ofOneWidth)
    .filter((t) => t.length >= 4 && t[t.length - 1].z - t[0].z >= LEAST_LENGTH)
    .map((t) => grooveOf(t, a.alignment.noise))
    .filter((g) => g.direction[2] > STEEPEST && g.u < LEAST_KNOWN)
    .sort((p, q) => p.width - q.width)
    .filter((g, i, all) => !all.slice(0, i).some((q) => Math.abs(wrapDegrees(q.azimuth - g.azimuth)) < SAME))
    .sort((p, q) => p.azimuth - q.azimuth);
}

/** The covered wall cut across the axis, level by level from the finish line up: contours in the order in which they run. */
function contours(a: CrownAnatomy): { z: number; line: Contour }[] {
  const { finishZ, wallTop, region } = a;
  if (!finishZ || !wallTop) return [];
  const n = a.covered.length;
  // A groove often ends the covered wall: its far lip may lie a little beyond.
  const reached = a.covered.map((_, k) =>
    Array.from({ length: 2 * BEYOND + 1 }, (_, j) => a.covered[(k + j - BEYOND + n) % n]).some(Boolean),
  );
  const foot = a.covered.reduce((m, c, k) => (c ? Math.min(m, finishZ[k]) : m), Infinity);
  const top = a.covered.reduce((m, c, k) => (c ? Math.max(m, wallTop[k]) : m), -Infinity);
  if (!(top > foot)) return [];
  const levels = Array.from({ length: Math.floor((top - foot) / LEVEL) }, (_, i) => foot + (i + 0.5) * LEVEL);
  return cutAcross(region.mesh, region.normals, (v) => region.prepared[v] === 1, levels).flatMap((chains, i) =>
    chains.flatMap((chain): { z: number; line: Contour }[] => {
      let turned = 0;
      for (let k = 1; k < chain.x.length; k++)
        turned += wrapDegrees(azimuthOf(chain.x[k], chain.y[k]) - azimuthOf(chain.x[k - 1], chain.y[k - 1]));
      // What does not run round the tooth is the wall of a pinhole or a scrap.
      if (Math.abs(turned) < LEAST_TURN) return [];
      const line = resampled(chain, PLACE).map(([x, y, steep]): readonly [number, number] | null =>
        steep && reached[Math.round((azimuthOf(x, y) / 360) * n) % n] ? [x, y] : null,
      );
      return [{ z: levels[i], line: turned < 0 ? line.reverse() : line }];
    }),
  );
}

/** Places `step` mm apart along a chain; the third number tells whether the wall is steep there. */
function resampled(c: CrossChain, step: number): [number, number, boolean][] {
  const out: [number, number, boolean][] = [];
  let left = 0;
  for (let k = 1; k < c.x.length; k++) {
    const l = Math.hypot(c.x[k] - c.x[k - 1], c.y[k] - c.y[k - 1]);
    for (; left < l; left += step) {
      const f = left / l;
      const up = c.up[k - 1] + f * (c.up[k] - c.up[k - 1]);
      out.push([c.x[k - 1] + f * (c.x[k] - c.x[k - 1]), c.y[k - 1] + f * (c.y[k] - c.y[k - 1]), Math.abs(up) < WALL_Z]);
    }
    left -= l;
  }
  return out;
}

/** Notches of one contour: places under the chord of their surroundings whose two sides are steep and end in lips. */
function notchesOf(line: Contour, z: number, master: Surface<'tooth'>): Notch[] {
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
  // Where the notch runs is told by all that lies deep in it: the lips alone would be two noisy places.
  const weight = (q: { depth: number }): number => Math.max(0, q.depth - LIPS * depth);
  const total = places.reduce((sum, q) => sum + weight(q), 0);
  const s = places.reduce((sum, q) => sum + weight(q) * q.s, 0) / total;
  const t = mean(bottoms.map((q) => q.t));
  const [u, v] = [s * chord[0] - t * chord[1], s * chord[1] + t * chord[0]];
  const bottom: Vec3 = [c[0] + u * along[0] + v * out[0], c[1] + u * along[1] + v * out[1], z];
  return { z, azimuth: azimuthOf(bottom[0], bottom[1]), depth, width: l, bottom };
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
      // The corner itself: of what follows closely, the place that stands out most.
      const near = way.slice(i).filter((q) => Math.hypot(q[0] - u, q[1] - v) <= LOOK);
      const corner = near.reduce((a, b) => (b[1] - STEEP * Math.abs(b[0]) > a[1] - STEEP * Math.abs(a[0]) ? b : a));
      return corner;
    }
  }
  return null;
}

/** The levels that show the notch as wide as most do: one cutter cuts one width, and a lip that was missed is found beyond the groove. */
function ofOneWidth(t: readonly Notch[]): Notch[] {
  const usual = median(t.map((n) => n.width));
  return t.filter((n) => Math.abs(n.width - usual) < OTHER_WIDTH * usual);
}

function grooveOf(t: readonly Notch[], noise: number): Groove {
  const n = t.length;
  const mz = t.reduce((s, q) => s + q.z, 0) / n;
  const line = (k: 0 | 1): { m: number; slope: number; rms: number } => {
    // Median of all pairs' slopes: a level at which a lip was missed does not turn the line.
    const slopes = t.flatMap((p, i) => t.slice(i + 1).map((q) => (q.bottom[k] - p.bottom[k]) / (q.z - p.z)));
    const slope = median(slopes);
    const m = median(t.map((q) => q.bottom[k] - slope * (q.z - mz)));
    const rms = 1.48 * median(t.map((q) => Math.abs(q.bottom[k] - m - slope * (q.z - mz))));
    return { m, slope, rms };
  };
  const [x, y] = [line(0), line(1)];
  const point = (z: number): Vec3 => [x.m + x.slope * (z - mz), y.m + y.slope * (z - mz), z];
  const spread = Math.sqrt(t.reduce((s, q) => s + (q.z - mz) ** 2, 0));
  return {
    azimuth: azimuthOf(x.m, y.m),
    depth: median(t.map((q) => q.depth)),
    width: median(t.map((q) => q.width)),
    direction: unit([x.slope, y.slope, 1]),
    u: Math.max(noise * 0.5, x.rms, y.rms) / spread / DEG,
    from: point(t[0].z),
    to: point(t[n - 1].z),
    levels: n,
  };
}
