import type { Alignment } from '../../align/align.ts';
import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { type Master, PART } from '../../master/master.ts';
import { bounds } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type Owners, ownersOf } from '../../segment/owners.ts';
import { closestPoint, newClosest, onBorder, type Surface, signOf } from '../../spatial/surface.ts';
import { median } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';

/** mm: deepest damage that is looked for; beyond it a point belongs to something else. */
const DEEPEST = 1.5;
/** mm beyond a part's own bounds within which the scan is looked at. */
const BESIDE = 0.5;
/** mm²: a stretch of loss smaller than this is noise. */
const SMALLEST_AREA = 0.12;
/** mm: radius over which loss is averaged to be found, and over which its depth is read. */
const FOUND_OVER = 0.25;
const READ_OVER = 0.15;
/**
 * A stretch of loss extends while the averaged loss exceeds the first multiple of its scatter; its peak must exceed the
 * second multiple, since some of a neighbour's thousand places reach the first by chance. The third is a least depth in mm.
 */
const TIMES_NOISE = 3;
const TIMES_NOISE_PEAK = 4.5;
const LEAST_FOUND = 0.02;
/** Standard uncertainties of noise that a stretch at the limit stands for, per usual one: its U then reaches down to nothing. */
const CHOSEN = TIMES_NOISE_PEAK / 2;
/** Standard deviation of a normal quantity over the median of its size. */
const NORMAL_MEDIAN = 1.4826;

/**
 * Damage to what stands beside the target: loss below its own master surface.
 * @formula stretches of 0.12 mm² or more over which the loss, averaged over 0.5 mm, exceeds 3 times its own scatter on this part, and 4.5 times at its deepest (0.02 mm at least); depth averaged over 0.3 mm at the deepest place; area and volume of what is deeper than 0.05 mm; where nothing is found, U is the limit
 * @units mm, mm², mm³
 * @frame tooth
 * @fails no-neighbour, not-seen
 * @source own definition, docs/definitions.md
 * @example a sphere sunk 0.2 mm into a plane reads 0.2; a clean neighbour reads 0
 */
export function neighbourDamage(a: Alignment, master: Master, side: 'mesial' | 'distal'): Reading[] {
  return damage(`neighbour.${side}`, master[side], PART[side], a, master, 'no-neighbour');
}

/**
 * Loss on the gingiva part: deepest place under its own master surface.
 * @formula as for the neighbours
 * @units mm, mm², mm³
 * @frame tooth
 * @fails no-gingiva, not-seen
 * @source own definition, docs/definitions.md
 * @example an untouched gingiva reads 0
 */
export function gingivaContact(a: Alignment, master: Master): Reading[] {
  return damage('gingiva.contact', master.gingiva, PART.gingiva, a, master, 'no-gingiva');
}

function damage(
  name: string,
  own: Surface<'tooth'> | null,
  part: number,
  a: Alignment,
  master: Master,
  lacking: 'no-neighbour' | 'no-gingiva',
): Reading[] {
  const refuse = (reason: typeof lacking | 'not-seen', coverage: number | null): Reading[] => [
    ...refusal(name, null, ['max'], reason, coverage),
    ...refusal(`${name}.area`, null, ['value'], reason, coverage),
    ...refusal(`${name}.volume`, null, ['value'], reason, coverage),
  ];
  if (!own) return refuse(lacking, null);
  const { depthAt, steady, areas, adjacency, seen, blunting } = lossOf(own, part, a, master);
  if (!seen) return refuse('not-seen', 0);
  const scatter = scatterOf(steady);
  // The mean of few points scatters more than that of many.
  const limitAt = (v: number, times: number): number => Math.max(LEAST_FOUND, times * scatter * Math.sqrt(steady.usual / steady.points[v]));
  const visited = new Uint8Array(areas.length);
  let total = 0;
  let volume = 0;
  let worst: { depth: number; v: number; noise: number; blunted: number } | null = null;
  for (let s = 0; s < areas.length; s++) {
    if (visited[s] || !(steady.mean[s] > limitAt(s, TIMES_NOISE))) continue;
    const patch = [s];
    visited[s] = 1;
    let area = 0;
    let deep = 0;
    let sum = 0;
    let deepest = s;
    for (let k = 0; k < patch.length; k++) {
      const v = patch[k];
      area += areas[v];
      if (steady.mean[v] > THRESHOLDS.damageDepth_mm) {
        deep += areas[v];
        sum += areas[v] * depthAt(v).mean;
      }
      if (steady.mean[v] > steady.mean[deepest]) deepest = v;
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
        const w = adjacency.list[i];
        if (!visited[w] && steady.mean[w] > limitAt(w, TIMES_NOISE)) {
          visited[w] = 1;
          patch.push(w);
        }
      }
    }
    if (area < SMALLEST_AREA || steady.mean[deepest] < limitAt(deepest, TIMES_NOISE_PEAK)) continue;
    total += deep;
    volume += sum;
    const { mean: depth, points } = depthAt(deepest);
    if (!worst || depth > worst.depth)
      worst = {
        depth,
        v: deepest,
        // Found where noise is greatest: at the limit it may be all that there is, and well over it hardly chose the place.
        noise:
          scatter * Math.sqrt(steady.usual / points) * Math.max(1, (CHOSEN * limitAt(deepest, TIMES_NOISE_PEAK)) / steady.mean[deepest]),
        blunted: blunting * Math.max(0, depth - steady.mean[deepest]),
      };
  }
  const p = a.scan.positions;
  const at = worst
    ? { azimuth: azimuthOf(p[3 * worst.v], p[3 * worst.v + 1]), point: [p[3 * worst.v], p[3 * worst.v + 1], p[3 * worst.v + 2]] as const }
    : null;
  const U = worst
    ? expanded(a.pointError, worst.noise, worst.blunted, methodUncertainty(name, 'max'))
    : Math.max(LEAST_FOUND, TIMES_NOISE_PEAK * scatter);
  return [
    reading({ name, stat: 'max', value: worst?.depth ?? 0, U, at, samples: seen }),
    reading({ name: `${name}.area`, value: total, U: 2 * Math.max(0.05, 0.1 * total), at, samples: seen }),
    reading({ name: `${name}.volume`, value: volume, U: 2 * Math.max(0.005, 0.1 * volume), at, samples: seen }),
  ];
}

/** The scan's points that belong to `own`, with their loss below it, smoothed over their neighbours. */
function lossOf(own: Surface<'tooth'>, part: number, a: Alignment, master: Master) {
  const owners = ownersOf(a.scan, master);
  const b = bounds(own.mesh.positions);
  const least = b.min.map((m) => m - BESIDE);
  const most = b.max.map((m) => m + BESIDE);
  const p = a.scan.positions;
  const raw = new Float64Array(p.length / 3).fill(Number.NEGATIVE_INFINITY);
  const hit = newClosest();
  const other = newClosest();
  const others = [master.target, master.mesial, master.distal, master.gingiva].filter(
    (s): s is Surface<'tooth'> => s !== null && s !== own,
  );
  const { adjacency, areas } = owners;
  const slots = new Int32Array(raw.length).fill(-1);
  let seen = 0;
  for (let v = 0; v < raw.length; v++) {
    const x = p[3 * v];
    const y = p[3 * v + 1];
    const z = p[3 * v + 2];
    if (x < least[0] || y < least[1] || z < least[2] || x > most[0] || y > most[1] || z > most[2]) continue;
    const owner = owners.part[v];
    if (owner >= 0) {
      if (owner !== part || owners.seam[v]) continue;
      raw[v] = owners.loss[v];
      seen++;
      continue;
    }
    let hint = -1;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1] && hint < 0; i++) hint = slots[adjacency.list[i]];
    if (!closestPoint(own, x, y, z, hit, DEEPEST, hint)) continue;
    slots[v] = hit.slot;
    if (onBorder(own, hit)) continue;
    const d = -signOf(own, hit, x, y, z) * Math.sqrt(hit.distanceSquared);
    // Points on or inside another part are that part's, wherever they lie under this one's continuation.
    if (
      d > 0.5 * THRESHOLDS.damageDepth_mm &&
      others.some((s) => closestPoint(s, x, y, z, other, Math.min(d, DEEPEST)) && !onBorder(s, other))
    )
      continue;
    if (d > 0.5 * THRESHOLDS.damageDepth_mm && insideOf(master.target, other, x, y, z)) continue;
    raw[v] = d;
    seen++;
  }
  // On a coarse scan the circle is wide enough to hold a place's neighbours.
  let area = 0;
  for (let v = 0; v < raw.length; v++) if (raw[v] !== Number.NEGATIVE_INFINITY) area += areas[v];
  const spacing = seen ? Math.sqrt(area / seen) : 0;
  const [narrow, wide] = [Math.max(READ_OVER, 1.2 * spacing), Math.max(FOUND_OVER, 1.6 * spacing)];
  return {
    depthAt: meanWithin(narrow, raw, p, adjacency, areas),
    steady: averagedWithin(spacing, wide, raw, p, adjacency, areas),
    // Of a paraboloid's curve: what the narrow mean falls short of its bottom, per what the wide one falls short of the narrow.
    blunting: narrow ** 2 / (wide ** 2 - narrow ** 2),
    areas,
    adjacency,
    seen,
  };
}

/** Scatter of the averaged loss about nothing, from the part itself: scanner noise with its correlation, steps of stitching, the master's own. */
function scatterOf({ mean, points, usual, sample }: Averaged): number {
  const sizes: number[] = [];
  for (const v of sample) sizes.push(Math.abs(mean[v]) * Math.sqrt(points[v] / usual));
  return NORMAL_MEDIAN * median(sizes);
}

/** Means over a circle about each point, over how many points each was taken (0: none), and the usual number. */
interface Averaged {
  readonly mean: Float64Array;
  readonly points: Uint32Array;
  readonly usual: number;
  /** Points by which the scatter is told. */
  readonly sample: readonly number[];
}

/** Mean by area over the connected points within a radius of one, and how many; places that belong to nothing stay out of it. */
function meanWithin(
  radius: number,
  values: Float64Array,
  p: Float64Array,
  { start, list }: { start: Uint32Array; list: Uint32Array },
  areas: Float64Array,
): (v: number) => { mean: number; points: number } {
  const seenFrom = new Int32Array(values.length).fill(-1);
  const queue = new Int32Array(values.length);
  return (v) => {
    let count = 1;
    queue[0] = v;
    seenFrom[v] = v;
    const x = p[3 * v];
    const y = p[3 * v + 1];
    const z = p[3 * v + 2];
    let s = 0;
    let area = 0;
    for (let k = 0; k < count; k++) {
      const u = queue[k];
      s += areas[u] * values[u];
      area += areas[u];
      for (let i = start[u]; i < start[u + 1]; i++) {
        const w = list[i];
        if (seenFrom[w] === v || values[w] === Number.NEGATIVE_INFINITY) continue;
        seenFrom[w] = v;
        const dx = p[3 * w] - x;
        const dy = p[3 * w + 1] - y;
        const dz = p[3 * w + 2] - z;
        if (dx * dx + dy * dy + dz * dz < radius * radius) queue[count++] = w;
      }
    }
    return { mean: area > 0 ? s / area : values[v], points: count };
  };
}

/** Points of each circle that tell the scatter: circles that overlap more say little that is new. At least every second point is left out. */
const OF_A_CIRCLE = 3;
/** mm that a point's own small mean must have lost before the wider one is taken there. */
const FIRST_LOOK = LEAST_FOUND / 2;

/** The same where a first look at a point and its neighbours shows loss at all, and at the points that tell the scatter. */
function averagedWithin(spacing: number, ...of: Parameters<typeof meanWithin>): Averaged {
  const [radius, values, , adjacency, areas] = of;
  const at = meanWithin(...of);
  // Two rings and not one: noise alone then seldom shows loss, and a wide mean costs a hundred points.
  const look = overNeighbours(overNeighbours(values, adjacency, areas), adjacency, areas);
  const points = new Uint32Array(values.length);
  const sample: number[] = [];
  const every = Math.max(2, Math.round((Math.PI * radius * radius) / (spacing * spacing) / OF_A_CIRCLE));
  let seen = 0;
  const mean = values.map((own, v) => {
    if (own === Number.NEGATIVE_INFINITY) return own;
    const isSample = seen++ % every === 0;
    if (isSample) sample.push(v);
    else if (!(look[v] > FIRST_LOOK)) return Number.NEGATIVE_INFINITY;
    const here = at(v);
    points[v] = here.points;
    return here.mean;
  });
  // What showed loss at the first look is more often noise upward: only the sample tells how the mean scatters.
  const even = sample.map((v) => points[v]);
  return { mean, points, sample, usual: even.length ? median(even) : 1 };
}

/** Each value's mean with its direct neighbours', by area; −∞, where nothing was seen, stays so and counts for nothing. */
function overNeighbours(values: Float64Array, { start, list }: Owners['adjacency'], areas: Float64Array): Float64Array {
  const out = new Float64Array(values.length).fill(Number.NEGATIVE_INFINITY);
  for (let v = 0; v < values.length; v++) {
    if (values[v] === Number.NEGATIVE_INFINITY) continue;
    let s = areas[v] * values[v];
    let area = areas[v];
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = list[i];
      if (values[w] === Number.NEGATIVE_INFINITY) continue;
      s += areas[w] * values[w];
      area += areas[w];
    }
    out[v] = area > 0 ? s / area : values[v];
  }
  return out;
}

function insideOf(s: Surface<'tooth'>, c: ReturnType<typeof newClosest>, x: number, y: number, z: number): boolean {
  return closestPoint(s, x, y, z, c, 3) && !onBorder(s, c) && signOf(s, c, x, y, z) < 0 && Math.sqrt(c.distanceSquared) > 0.1;
}
