import { DEG, unit, type Vec3, wrapDegrees } from '../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../spatial/surface.ts';
import { median } from '../statistics/quantile.ts';
import type { CrownAnatomy } from './crown.ts';
import { azimuthOf } from './sectors.ts';

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

/** mm between the levels at which the wall is cut across, degrees between the places of one level. */
const LEVEL = 0.2;
const BINS = 360;
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
/** mm beyond a lip between which the wall's own direction is taken. */
const BESIDE = [0.15, 0.9] as const;
/** degrees within which two tracks at the same heights are one groove read twice. */
const SAME = 25;
/** Half planes beyond the covered ones that are looked at. */
const BEYOND = 3;
/** degrees that a groove may wander between levels. */
const LINK = 7;
/** Walls steeper than this (cosine of the normal to the axis) are cut; tables and cusp slopes are not. */
const WALL_Z = 0.6;

type Ring = readonly (readonly [number, number] | null)[];
interface Notch {
  readonly z: number;
  readonly azimuth: number;
  readonly depth: number;
  readonly width: number;
  readonly bottom: Vec3;
}

/**
 * Grooves in the outer wall: at every level the wall's outermost points form a ring; a notch in it has two lips, where its
 * steep sides level out; notches over one another are a groove.
 */
export function groovesOf(a: CrownAnatomy): Groove[] {
  const notches = rings(a).flatMap(({ z, ring }) => notchesOf(ring, z, a.master.target));
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
    .filter((t) => t[t.length - 1].z - t[0].z >= LEAST_LENGTH && t.length >= 4)
    .map((t) => grooveOf(t, a.alignment.noise))
    .filter((g) => g.direction[2] > STEEPEST && g.u < LEAST_KNOWN)
    .sort((p, q) => p.width - q.width)
    .filter((g, i, all) => !all.slice(0, i).some((q) => Math.abs(wrapDegrees(q.azimuth - g.azimuth)) < SAME))
    .sort((p, q) => p.azimuth - q.azimuth);
}

/** The covered wall cut across the axis, level by level from the finish line up. */
function rings(a: CrownAnatomy): { z: number; ring: Ring }[] {
  const { finishZ, wallTop, region } = a;
  if (!finishZ || !wallTop) return [];
  const { mesh, prepared, normals } = region;
  const p = mesh.positions;
  const t = mesh.triangles;
  const n = a.covered.length;
  // A groove often ends the covered wall: its far lip may lie a little beyond.
  const reached = a.covered.map((_, k) =>
    Array.from({ length: 2 * BEYOND + 1 }, (_, j) => a.covered[(k + j - BEYOND + n) % n]).some(Boolean),
  );
  const foot = a.covered.reduce((m, c, k) => (c ? Math.min(m, finishZ[k]) : m), Infinity);
  const top = a.covered.reduce((m, c, k) => (c ? Math.max(m, wallTop[k]) : m), -Infinity);
  if (!(top > foot)) return [];
  const count = Math.floor((top - foot) / LEVEL);
  const out = Array.from({ length: count }, (_, i) => ({
    z: foot + (i + 0.5) * LEVEL,
    ring: new Array<readonly [number, number] | null>(BINS).fill(null),
    wall: new Uint8Array(BINS),
  }));
  const put = (level: number, x: number, y: number, wall: boolean): void => {
    const azimuth = azimuthOf(x, y);
    if (!reached[Math.round((azimuth / 360) * n) % n]) return;
    const bin = Math.floor((azimuth / 360) * BINS) % BINS;
    const o = out[level];
    const old = o.ring[bin];
    if (old && x * x + y * y <= old[0] ** 2 + old[1] ** 2) return;
    o.ring[bin] = [x, y];
    o.wall[bin] = wall ? 1 : 0;
  };
  for (let f = 0; f < t.length; f += 3) {
    const v = [t[f], t[f + 1], t[f + 2]];
    if (!v.every((q) => prepared[q])) continue;
    const wall = v.every((q) => Math.abs(normals[3 * q + 2]) < WALL_Z);
    const z = v.map((q) => p[3 * q + 2]);
    const first = Math.max(0, Math.ceil((Math.min(...z) - foot) / LEVEL - 0.5));
    for (let i = first; i < count && out[i].z < Math.max(...z); i++) {
      const ends: [number, number][] = [];
      for (let k = 0; k < 3; k++) {
        const [u, w] = [v[k], v[(k + 1) % 3]];
        if (z[k] > out[i].z === z[(k + 1) % 3] > out[i].z) continue;
        const s = (out[i].z - z[k]) / (z[(k + 1) % 3] - z[k]);
        ends.push([p[3 * u] + s * (p[3 * w] - p[3 * u]), p[3 * u + 1] + s * (p[3 * w + 1] - p[3 * u + 1])]);
      }
      if (ends.length < 2) continue;
      // So close together that no bin which the cut crosses stays empty.
      const [e, b] = ends;
      const steps = Math.ceil((Math.abs(wrapDegrees(azimuthOf(e[0], e[1]) - azimuthOf(b[0], b[1]))) * BINS) / 360) + 1;
      for (let s = 0; s <= steps; s++) put(i, e[0] + ((b[0] - e[0]) * s) / steps, e[1] + ((b[1] - e[1]) * s) / steps, wall);
    }
  }
  // Where the outermost surface is a table or a slope, what stands behind it is no wall of this side.
  return out.map(({ z, ring, wall }) => ({ z, ring: ring.map((q, k) => (wall[k] ? q : null)) }));
}

/** Notches of one ring: places under the chord of their surroundings whose two sides are steep and end in lips. */
function notchesOf(ring: Ring, z: number, master: Surface<'tooth'>): Notch[] {
  const under = ring.map((_, k) => underChord(ring, k));
  const out: Notch[] = [];
  for (let k = 0; k < BINS; k++) {
    if (under[k] < LEAST_DEPTH) continue;
    let highest = true;
    for (let j = -4; j <= 4 && highest; j++) if (under[(k + j + BINS) % BINS] > under[k]) highest = false;
    if (!highest) continue;
    const notch = notchAt(ring, k, z, master);
    if (!notch) continue;
    // A step beside a groove makes a wider notch of both: the narrower one is the groove.
    const same = out.findIndex((n) => Math.abs(wrapDegrees(n.azimuth - notch.azimuth)) < SAME);
    if (same < 0) out.push(notch);
    else if (notch.width < out[same].width) out[same] = notch;
  }
  return out;
}

const at = (ring: Ring, k: number) => ring[((k % BINS) + BINS) % BINS];

/** Largest distance of a place under the chords between places each side of it. */
function underChord(ring: Ring, k: number): number {
  const c = ring[k];
  if (!c) return 0;
  let most = 0;
  const side = (sign: 1 | -1): (readonly [number, number])[] => {
    const list: (readonly [number, number])[] = [];
    for (let j = 1; j < 60; j++) {
      const q = at(ring, k + sign * j);
      if (!q) continue;
      if (Math.hypot(q[0] - c[0], q[1] - c[1]) > REACH) break;
      if (j % 2 === 1) list.push(q);
    }
    return list;
  };
  const after = side(1);
  for (const b of side(-1))
    for (const e of after) {
      const l = Math.hypot(e[0] - b[0], e[1] - b[1]);
      // Walking on in azimuth, the axis lies to the right of the chord: a place nearer to the axis is under it.
      const d = -((e[0] - b[0]) * (c[1] - b[1]) - (e[1] - b[1]) * (c[0] - b[0])) / (l || 1);
      if (d > most) most = d;
    }
  return most;
}

function notchAt(ring: Ring, k: number, z: number, master: Surface<'tooth'>): Notch | null {
  const c = at(ring, k) as readonly [number, number];
  // Steep is meant against the tooth's own side: a step across the wall has one side that runs along with it.
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  closestPoint(master, c[0], c[1], z, hit);
  pseudoNormal(master, hit, normal);
  const l0 = Math.hypot(normal[0], normal[1]);
  if (l0 < 0.3) return null;
  const first = [normal[1] / l0, -normal[0] / l0] as const;
  const along = wallBeside(ring, k, first) ?? first;
  const out = [-along[1], along[0]] as const;
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    (q[0] - c[0]) * out[0] + (q[1] - c[1]) * out[1],
  ];
  const lips = ([1, -1] as const).map((sign) => lip(ring, k, sign, local));
  const [e, b] = lips;
  if (!e || !b) return null;
  const l = Math.hypot(e[0] - b[0], e[1] - b[1]);
  // Deepest place of the notch under the chord of its lips, as a mean of the deepest three: one point is noise.
  const depths: number[] = [];
  for (let j = -b[2]; j <= e[2]; j++) {
    const q = at(ring, k + j);
    if (!q) continue;
    const [u, v] = local(q);
    depths.push(((u - b[0]) * (e[1] - b[1]) - (v - b[1]) * (e[0] - b[0])) / l);
  }
  const deepest = depths.sort((p, q) => q - p);
  const depth = deepest.length >= 3 ? (deepest[0] + deepest[1] + deepest[2]) / 3 : 0;
  if (depth < LEAST_DEPTH || l > 2 * REACH) return null;
  const middle = [(b[0] + e[0]) / 2, (b[1] + e[1]) / 2];
  const across = [(e[1] - b[1]) / l, -(e[0] - b[0]) / l];
  const inward = across[1] > 0 ? -1 : 1;
  const u = middle[0] + inward * depth * across[0];
  const v = middle[1] + inward * depth * across[1];
  const bottom: Vec3 = [c[0] + u * along[0] + v * out[0], c[1] + u * along[1] + v * out[1], z];
  return { z, azimuth: azimuthOf(bottom[0], bottom[1]), depth, width: l, bottom };
}

/** Direction of the wall on the notch's lingual side, where a partial crown always has one; null when too little was seen. */
function wallBeside(ring: Ring, k: number, along: readonly [number, number]): readonly [number, number] | null {
  const c = at(ring, k) as readonly [number, number];
  const sign = k < BINS / 2 ? 1 : -1;
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    -(q[0] - c[0]) * along[1] + (q[1] - c[1]) * along[0],
  ];
  const from = lip(ring, k, sign, local);
  if (!from) return null;
  const wall = Array.from({ length: 60 }, (_, j) => at(ring, k + sign * (j + 1)))
    .flatMap((q) => (q ? [local(q)] : []))
    .filter(([u]) => Math.abs(u - from[0]) > BESIDE[0] && Math.abs(u - from[0]) < BESIDE[1] && u * sign > from[0] * sign);
  if (wall.length < 5) return null;
  const mu = wall.reduce((s, q) => s + q[0], 0) / wall.length;
  const mv = wall.reduce((s, q) => s + q[1], 0) / wall.length;
  const slope = wall.reduce((s, q) => s + (q[0] - mu) * (q[1] - mv), 0) / wall.reduce((s, q) => s + (q[0] - mu) ** 2, 0);
  const l = Math.hypot(1, slope);
  return [(along[0] - slope * along[1]) / l, (along[1] + slope * along[0]) / l];
}

/** Where the notch's side on one hand levels out: (along, outward) from the bottom and how many places on; null when it has no steep side there. */
function lip(
  ring: Ring,
  k: number,
  sign: 1 | -1,
  local: (q: readonly [number, number]) => [number, number],
): readonly [number, number, number] | null {
  let before: [number, number] = [0, 0];
  let climbing = false;
  let level = 0;
  let last: [number, number, number] = [0, 0, 0];
  for (let j = 1; j < 60; j++) {
    const q = at(ring, k + sign * j);
    if (!q) {
      // A gap of two places may be a scanner's; a longer one ends the wall.
      if (++level > 3) break;
      continue;
    }
    const here = local(q);
    const run = Math.abs(here[0] - before[0]);
    if (run < 0.05 && here[1] - before[1] < 0.05) continue;
    const steep = here[1] - before[1] > STEEP * run;
    if (steep) {
      climbing = true;
      level = 0;
      last = [here[0], here[1], j];
    } else if (climbing && ++level >= 2) return last;
    if (Math.abs(here[0]) > REACH) break;
    before = here;
  }
  return climbing && last[1] > LEAST_DEPTH ? last : null;
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
