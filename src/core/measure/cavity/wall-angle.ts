import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { toDegrees, unit, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy, PartName } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { isScrap } from '../../segment/target.ts';
import { quantile } from '../../statistics/quantile.ts';
import { independent } from '../uncertainty/fit-error.ts';

/** mm: least distance of a wall's points from floor and outline. */
const OVER_FLOOR = 0.3;
const UNDER_EDGE = 0.16;

/** Whether the wall ends just over a point in a level table (a covered cusp's): there the normals turn. */
function underTable(a: CavityAnatomy, v: number): boolean {
  const { adjacency, normals, prepared, mesh } = a.region;
  const p = mesh.positions;
  const seen = new Set([v]);
  let ring = [v];
  for (let step = 0; step < 2; step++) {
    const next: number[] = [];
    for (const u of ring)
      for (let i = adjacency.start[u]; i < adjacency.start[u + 1]; i++) {
        const w = adjacency.list[i];
        if (seen.has(w)) continue;
        seen.add(w);
        next.push(w);
        if (prepared[w] && normals[3 * w + 2] > 0.6 && p[3 * w + 2] > p[3 * v + 2]) return true;
      }
    ring = next;
  }
  return false;
}

/** A wall's points away from its rounded foot and its edge, and those that are left each time that foot, edge or both are moved. */
export interface WallPoints {
  readonly all: readonly number[];
  readonly moved: readonly (readonly number[])[];
}

const ownPoints = new WeakMap<CavityAnatomy, Map<PartName, WallPoints>>();

/** A wall's own points; found once for a cavity. */
export function wallPoints(a: CavityAnatomy, part: PartName): WallPoints {
  const known = ownPoints.get(a) ?? new Map<PartName, WallPoints>();
  ownPoints.set(a, known);
  let own = known.get(part);
  if (!own) {
    const points = (a.parts.get(part) ?? []).filter((v) => !underTable(a, v));
    own = { all: properOf(a, part, points), moved: MOVED.map((by) => properOf(a, part, points, by)) };
    known.set(part, own);
  }
  return own;
}

export const wallProper = (a: CavityAnatomy, part: PartName): readonly number[] => wallPoints(a, part).all;

/** mm by which foot and edge are moved to see how much the wall's reading depends on where it is taken to end: of a rough wall it depends on either. */
const MOVED = [
  { foot: 0.1, edge: 0.1 },
  { foot: 0.2, edge: 0 },
  { foot: 0, edge: 0.2 },
] as const;

function properOf(a: CavityAnatomy, part: PartName, points: readonly number[], moved = { foot: 0, edge: 0 }): number[] {
  const p = a.region.mesh.positions;
  const box = a.boxes.find((b) => part === `box ${b.side} facial` || part === `box ${b.side} lingual` || part === `axial ${b.side}`);
  const floor = box ? box.floor : a.pulpal;
  return points.filter((v) => {
    if (a.region.depth[v] < UNDER_EDGE + moved.edge) return false;
    const over = floor ? p[3 * v + 2] - floorAt(floor.plane, p[3 * v], p[3 * v + 1]) : Infinity;
    if (over < OVER_FLOOR + moved.foot) return false;
    // An axial wall also ends in a rounded edge under the pulpal floor.
    return !(
      part.startsWith('axial') &&
      a.pulpal &&
      floorAt(a.pulpal.plane, p[3 * v], p[3 * v + 1]) - p[3 * v + 2] < OVER_FLOOR + 0.1 + moved.edge
    );
  });
}

/** Mean length of a wall's normals seen along the axis: 1 of a plane one, 0.90 of a quarter of a round one. */
function straightness(a: CavityAnatomy, vertices: readonly number[]): number {
  const { areas, normals } = a.region;
  let [x, y, weight] = [0, 0, 0];
  for (const v of vertices) {
    const l = Math.hypot(normals[3 * v], normals[3 * v + 1]) || 1;
    x += (areas[v] * normals[3 * v]) / l;
    y += (areas[v] * normals[3 * v + 1]) / l;
    weight += areas[v];
  }
  return weight ? Math.hypot(x, y) / weight : 1;
}

const SIDE_WALLS: readonly PartName[] = ['facial', 'mesial', 'lingual', 'distal'];
/** A cavity is round if none of its side walls is straighter than this; its side walls then have no names. */
const ROUND = 0.925;
/** Degrees of standard uncertainty for a wall of no direction at all: where a bent one ends and the next begins is not defined. */
const BENT = 15;

/**
 * Angle of each wall to the axis; zone null is the whole wall round the pulpal floor. In a round cavity only that is given.
 * @formula area-weighted mean over 15° bins of −atan(N·z ÷ N across), N the bin's summed area vectors, pointing into the cavity, over the wall away from its foot (0.3 mm) and its edge (0.16 mm of depth)
 * @units degrees, + converging occlusally, − diverging
 * @frame tooth
 * @fails no-wall (also where less than 0.25 mm of its height, or less than 0.4 mm² of it, is plane), walls-merge
 * @source own definition, docs/definitions.md
 * @example an upright wall reads 0
 */
export function wallAngle(a: CavityAnatomy): Reading[] {
  const names: PartName[] = [
    'facial',
    'mesial',
    'lingual',
    'distal',
    ...a.boxes.flatMap((b): PartName[] => [`box ${b.side} facial`, `box ${b.side} lingual`, `axial ${b.side}`]),
  ];
  const sides = SIDE_WALLS.filter((s) => !a.boxes.some((b) => b.side === s)).map((s) => wallPoints(a, s));
  const round = sides.length === 4 && sides.every((w) => !isScrap(a.region, w.all) && straightness(a, w.all) < ROUND);
  const one = (zone: PartName | null, wall: WallPoints): Reading[] => {
    const vertices = wall.all;
    if (isScrap(a.region, vertices)) return refusal('wall.angle', zone, ['mean'], 'no-wall');
    const lean = wallLean(a, wall);
    if (!lean) return refusal('wall.angle', zone, ['mean'], 'no-wall');
    const { mean, noise, centre } = lean;
    const at = { azimuth: azimuthOf(centre[0], centre[1]), point: centre };
    const bent = BENT * (1 - straightness(a, vertices));
    const U = expanded(noise, toDegrees(a.alignment.turnError), bent, methodUncertainty('wall.angle', 'mean'));
    return [reading({ name: 'wall.angle', zone, stat: 'mean', value: mean, U, at, samples: vertices.length })];
  };
  const each = names.flatMap((part): Reading[] => {
    // A wall that a box took away is not missing.
    if (a.boxes.some((b) => b.side === part) || (!a.pulpal && !part.includes(' '))) return [];
    if (round && SIDE_WALLS.includes(part)) return refusal('wall.angle', part, ['mean'], 'walls-merge');
    return one(part, wallPoints(a, part));
  });
  const whole = { all: sides.flatMap((w) => w.all), moved: MOVED.map((_, i) => sides.flatMap((w) => w.moved[i])) };
  return a.pulpal ? [...each, ...one(null, whole)] : each;
}

/** Mean normal of every named wall. */
export function wallNormals(a: CavityAnatomy): Vec3[] {
  const n = a.region.normals;
  return [...a.parts.keys()]
    .filter((part) => !part.includes('floor'))
    .flatMap((part): Vec3[] => {
      const vertices = wallProper(a, part);
      if (isScrap(a.region, vertices)) return [];
      const s = [0, 0, 0];
      for (const v of vertices) for (let k = 0; k < 3; k++) s[k] += a.region.areas[v] * n[3 * v + k];
      return [unit([s[0], s[1], s[2]])];
    });
}

/**
 * Lean of a wall's points to the axis (+ converging occlusally), its standard uncertainty from noise, from where the wall is taken to end and from how narrow it is, and
 * their middle. Null where they are scattered and no triangle is the wall's own, or where hardly any plane wall is left.
 */
export function wallLean(a: CavityAnatomy, wall: WallPoints): { mean: number; noise: number; centre: Vec3 } | null {
  const vertices = wall.all;
  const p = a.region.mesh.positions;
  let weight = 0;
  const m = [0, 0, 0];
  for (const v of vertices) {
    const w = a.region.areas[v];
    weight += w;
    for (let k = 0; k < 3; k++) m[k] += w * p[3 * v + k];
  }
  if (weight < LEAST_AREA) return null;
  const lean = leanOf(a, vertices);
  if (!lean) return null;
  const { mean, spread, area: seen } = lean;
  const z = vertices.map((v) => p[3 * v + 2]);
  const height = quantile(z, 0.95) - quantile(z, 0.05);
  if (height < LEAST_HEIGHT) return null;
  // Neighbouring normals share their noise over about 0.3 mm; rounded ends lean on a low wall.
  const ends = wall.moved.map((left) => {
    const moved = leanOf(a, left);
    const area = left.reduce((s, v) => s + a.region.areas[v], 0);
    // What a shorter wall reads otherwise is noise for the greater part where hardly any of it is left.
    return moved ? Math.sqrt(Math.max(0, (moved.mean - mean) ** 2 - spread ** 2 / independent(area, a.region))) / 2 : spread;
  });
  // Of a wall of less than a square millimetre hardly half lies in triangles of its own: of the rest only the points' normals tell. Next to foot and
  // edge these lean with what lies beyond: the points left when both are moved are asked.
  const inner = wall.moved[0];
  const apart = inner.length < LEAST_POINTS ? 0 : leanOfNormals(a, inner) - mean;
  const narrow = (2 / 3) * apart * Math.max(0, 1 - seen / weight) * Math.min(1, SMALL / weight);
  const noise = Math.hypot(spread / Math.sqrt(independent(weight, a.region)), toDegrees(ROUNDED / height), Math.max(...ends), narrow);
  return { mean, noise, centre: [m[0] / weight, m[1] / weight, m[2] / weight] };
}

/** mm²: of a larger wall its own triangles are enough. */
const SMALL = 1;
/** Points of a wall's middle below which their normals tell nothing more. */
const LEAST_POINTS = 6;
/** mm²: on less plane wall the rounded rim determines the lean. */
const LEAST_AREA = 0.4;
/** mm of plane wall between rounded foot and edge below which its lean cannot be read. */
const LEAST_HEIGHT = 0.25;
/** mm: shift of a wall's points by the rounding at its ends. */
const ROUNDED = 0.012;

/** degrees of arc over which a curved wall counts as plane. */
const BIN = 15;

/** Mean lean of a wall's points by their own normals, weighted by area. */
function leanOfNormals({ region: { areas, normals } }: CavityAnatomy, vertices: readonly number[]): number {
  let [sum, weight] = [0, 0];
  for (const v of vertices) {
    weight += areas[v];
    sum -= areas[v] * toDegrees(Math.atan2(normals[3 * v + 2], Math.hypot(normals[3 * v], normals[3 * v + 1])));
  }
  return sum / weight;
}

const cut = new WeakMap<CavityAnatomy, Uint32Array>();

/** First corners, in the list of corners, of the triangles that were cut: every wall's own are among them. */
function cutTriangles(a: CavityAnatomy): Uint32Array {
  let known = cut.get(a);
  if (!known) {
    const { triangles: t } = a.region.mesh;
    const { prepared } = a.region;
    const found: number[] = [];
    for (let f = 0; f < t.length; f += 3) if (prepared[t[f]] && prepared[t[f + 1]] && prepared[t[f + 2]]) found.push(f);
    known = Uint32Array.from(found);
    cut.set(a, known);
  }
  return known;
}

/**
 * Lean of a wall from sums of its triangles' area vectors, bin by bin round the axis: a sum depends on its patch's border
 * alone, so that point noise and smoothing hardly enter.
 */
function leanOf(a: CavityAnatomy, vertices: readonly number[]): { mean: number; spread: number; area: number } | null {
  const { mesh, normals } = a.region;
  const p = mesh.positions;
  const own = new Uint8Array(p.length / 3);
  for (const v of vertices) own[v] = 1;
  const bins = new Map<number, [number, number, number]>();
  const t = mesh.triangles;
  for (const f of cutTriangles(a)) {
    const i = 3 * t[f];
    const j = 3 * t[f + 1];
    const k = 3 * t[f + 2];
    if (!own[t[f]] || !own[t[f + 1]] || !own[t[f + 2]]) continue;
    const ux = p[j] - p[i];
    const uy = p[j + 1] - p[i + 1];
    const uz = p[j + 2] - p[i + 2];
    const wx = p[k] - p[i];
    const wy = p[k + 1] - p[i + 1];
    const wz = p[k + 2] - p[i + 2];
    const bin = Math.floor(azimuthOf(-normals[i], -normals[i + 1]) / BIN);
    let sum = bins.get(bin);
    if (!sum) {
      sum = [0, 0, 0];
      bins.set(bin, sum);
    }
    sum[0] += uy * wz - uz * wy;
    sum[1] += uz * wx - ux * wz;
    sum[2] += ux * wy - uy * wx;
  }
  const leans = [...bins.values()].map((s) => ({ angle: -toDegrees(Math.atan2(s[2], Math.hypot(s[0], s[1]))), weight: Math.hypot(...s) }));
  const total = leans.reduce((s, q) => s + q.weight, 0);
  if (!(total > 0)) return null;
  const mean = leans.reduce((s, q) => s + q.weight * q.angle, 0) / total;
  // Sums of area vectors are twice the area.
  return { mean, spread: Math.sqrt(leans.reduce((s, q) => s + q.weight * (q.angle - mean) ** 2, 0) / total), area: total / 2 };
}
