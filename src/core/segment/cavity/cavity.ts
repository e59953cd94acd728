import type { Alignment } from '../../align/align.ts';
import type { Plan } from '../../linalg/plan.ts';
import { DEG, type Vec3 } from '../../linalg/vec.ts';
import type { Master } from '../../master/master.ts';
import { triangleNeighbours } from '../../mesh/mesh.ts';
import { quantile } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { isScrap, type TargetRegion, targetRegion } from '../target.ts';
import { type OutlinePoint, outlineOf } from './outline.ts';

export type BoxSide = 'mesial' | 'distal';
export type WallSide = 'facial' | 'mesial' | 'lingual' | 'distal';
export const WALL_SIDES: readonly WallSide[] = ['facial', 'mesial', 'lingual', 'distal'];

/** Names of the cavity's parts as readings and pictures use them. */
export type PartName =
  | 'pulpal floor'
  | `${BoxSide} floor`
  | WallSide
  | `box ${BoxSide} facial`
  | `box ${BoxSide} lingual`
  | `axial ${BoxSide}`;

/** A plane z = a + bx + cy through a floor's points. */
export interface FloorPlane {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  /** RMS of the points about it, mm, scan noise taken off. */
  readonly flat: number;
}

export interface Floor {
  readonly vertices: readonly number[];
  readonly plane: FloorPlane;
  readonly area: number;
  readonly centre: Vec3;
}

export interface Box {
  readonly side: BoxSide;
  /** +1 mesial, −1 distal. */
  readonly sign: 1 | -1;
  readonly floor: Floor;
  /** x = a + b y + c y² + d (z' − z), tooth frame. */
  readonly axial: {
    readonly a: number;
    readonly b: number;
    readonly c: number;
    readonly d: number;
    readonly z: number;
    readonly vertices: readonly number[];
  } | null;
}

/** A cavity taken apart: outline, floors, walls, boxes. */
export interface CavityAnatomy {
  readonly master: Master;
  readonly alignment: Alignment;
  readonly region: TargetRegion;
  /** Cavosurface outline; of an onlay the stretches that leave the tooth uncovered. */
  readonly outline: readonly OutlinePoint[];
  /** The outline seen along the axis. */
  readonly plan: Plan;
  readonly pulpal: Floor | null;
  readonly boxes: readonly Box[];
  /** Points of each named part. */
  readonly parts: ReadonlyMap<PartName, readonly number[]>;
}

/** mm²: a patch smaller than this is no floor. */
const LEAST_FLOOR = 0.3;
/** mm: a floor this near to the outline opens on the tooth's side. */
const OPEN_WITHIN = 0.35;

/**
 * Takes a cavity apart. `covering` is for onlays: covered cusps end in tables and shoulders that are no cavity floors, and
 * outer walls that are no cavity walls.
 */
export function takeCavityApart(
  alignment: Alignment,
  master: Master,
  covering = false,
  region: TargetRegion = targetRegion(alignment, master),
): CavityAnatomy {
  const outline = outlineOf(region, master.target);
  const plan: Plan = outline.map((o) => [o.p[0], o.p[1]]);
  const floors = floorsOf(region, alignment.noise, covering ? TABLE_LEVEL : LEVEL);
  const edge = outline.map((o) => o.p);
  const holes = borderOf(region);
  const within = (covering ? 1.5 : 1) * OPEN_WITHIN;
  const open = floors.filter((f) => {
    const aside = Math.abs(f.centre[0]) > 1;
    return ((covering || aside) && nearTo(region, f, edge) < within) || (aside && nearTo(region, f, holes) < within);
  });
  const closed = floors.filter((f) => !open.includes(f) && (!covering || sunken(region, f)));
  const pulpal = merged(
    closed.filter((f) => f.area > 0.15 * closed[0].area && sameLevel(f, closed[0])),
    region,
    alignment.noise,
  );
  const boxes = (['mesial', 'distal'] as const).flatMap((side): Box[] => {
    const sign = side === 'mesial' ? 1 : -1;
    const here = open.filter((f) => f.centre[0] * sign > 0);
    const floor = covering ? boxFloor(here, region, alignment.noise, sign) : merged(here, region, alignment.noise);
    return floor ? [{ side, sign, floor, axial: axialOf(region, floor, pulpal, sign) }] : [];
  });
  return { master, alignment, region, outline, plan, pulpal, boxes, parts: partsOf(region, pulpal, boxes, covering) };
}

/** mm beyond a floor's border within which one looks how the ground goes on, and the heights that count. */
const BESIDE = 0.4;
const RISE = [0.2, 0.6] as const;

/** Whether the ground beside a floor rises on more of its border than it falls: a table on a cut cusp falls away all round. */
function sunken(r: TargetRegion, f: Floor): boolean {
  const p = r.mesh.positions;
  const own = new Set(f.vertices);
  const key = (i: number, j: number): number => i * 4096 + j;
  const cell = (v: number): [number, number] => [Math.floor(p[3 * v] / BESIDE), Math.floor(p[3 * v + 1] / BESIDE)];
  const near = new Set<number>();
  for (const v of f.vertices) {
    const [i, j] = cell(v);
    for (let di = -1; di <= 1; di++) for (let dj = -1; dj <= 1; dj++) near.add(key(i + di, j + dj));
  }
  let balance = 0;
  for (let v = 0; v < r.areas.length; v++) {
    if (!r.prepared[v] || own.has(v) || !near.has(key(...cell(v)))) continue;
    const rise = p[3 * v + 2] - floorAt(f.plane, p[3 * v], p[3 * v + 1]);
    if (Math.abs(rise) > RISE[0] && Math.abs(rise) < RISE[1]) balance += Math.sign(rise) * r.areas[v];
  }
  return balance > 0;
}

/** degrees from straight mesial or distal within which a floor that opens on the side belongs to a box, not to a shoulder. */
const BOX_ARC = 38;
/** mm² of a box's floor at the least, and how far to one side (tangent) its middle may lie: else it is a piece of shoulder. */
const LEAST_BOX = 1.2;
const OFF_CENTRE = 0.45;

/** The part of the open floors that lies proximally, at one level. */
function boxFloor(floors: readonly Floor[], r: TargetRegion, noise: number, sign: 1 | -1): Floor | null {
  const p = r.mesh.positions;
  const tan = Math.tan(BOX_ARC * DEG);
  const clipped = floors.flatMap((f) => {
    const inArc = f.vertices.filter((v) => p[3 * v] * sign > 0 && Math.abs(p[3 * v + 1]) < tan * Math.abs(p[3 * v]));
    const q = floorOf(inArc, r, noise);
    return q && q.area >= LEAST_FLOOR && q.area > 0.9 * f.area ? [q] : [];
  });
  const largest = clipped.reduce<Floor | null>((a, b) => (!a || b.area > a.area ? b : a), null);
  if (!largest || largest.area < LEAST_BOX || Math.abs(largest.centre[1]) > OFF_CENTRE * Math.abs(largest.centre[0])) return null;
  const level = clipped.filter((f) => Math.abs(f.centre[2] - largest.centre[2]) < 0.3);
  return merged(level, r, noise);
}

const STEEP = Math.sin(THRESHOLDS.wallWithin_deg * DEG);
const LEVEL = Math.cos(THRESHOLDS.wallWithin_deg * DEG);
const isWall = (r: TargetRegion, v: number): boolean => r.prepared[v] === 1 && Math.abs(r.normals[3 * v + 2]) <= STEEP;
/** Under covered cusps only what is truly level is a floor: their tables slope like the cusps did. */
const TABLE_LEVEL = Math.cos(16 * DEG);

/** Connected floor patches, the largest first. */
function floorsOf(region: TargetRegion, noise: number, level: number): Floor[] {
  const isFloor = (v: number): boolean => region.prepared[v] === 1 && region.normals[3 * v + 2] >= level;
  const { adjacency, areas } = region;
  const seen = new Uint8Array(areas.length);
  const out: Floor[] = [];
  for (let s = 0; s < seen.length; s++) {
    if (seen[s] || !isFloor(s)) continue;
    const vertices = [s];
    seen[s] = 1;
    for (let k = 0; k < vertices.length; k++)
      for (let i = adjacency.start[vertices[k]]; i < adjacency.start[vertices[k] + 1]; i++) {
        const w = adjacency.list[i];
        if (!seen[w] && isFloor(w)) {
          seen[w] = 1;
          vertices.push(w);
        }
      }
    const f = floorOf(vertices, region, noise);
    if (f && f.area >= LEAST_FLOOR) out.push(f);
  }
  return out.sort((a, b) => b.area - a.area);
}

function floorOf(vertices: readonly number[], r: TargetRegion, noise: number): Floor | null {
  if (isScrap(r, vertices)) return null;
  const p = r.mesh.positions;
  let w = 0;
  const m = [0, 0, 0];
  for (const v of vertices) {
    w += r.areas[v];
    for (let k = 0; k < 3; k++) m[k] += r.areas[v] * p[3 * v + k];
  }
  const c: Vec3 = [m[0] / w, m[1] / w, m[2] / w];
  let xx = 0;
  let xy = 0;
  let yy = 0;
  let xz = 0;
  let yz = 0;
  for (const v of vertices) {
    const x = p[3 * v] - c[0];
    const y = p[3 * v + 1] - c[1];
    const z = p[3 * v + 2] - c[2];
    const a = r.areas[v];
    xx += a * x * x;
    xy += a * x * y;
    yy += a * y * y;
    xz += a * x * z;
    yz += a * y * z;
  }
  const det = xx * yy - xy * xy;
  const b = det > 1e-9 ? (xz * yy - yz * xy) / det : 0;
  const e = det > 1e-9 ? (yz * xx - xz * xy) / det : 0;
  let s = 0;
  for (const v of vertices) s += r.areas[v] * (p[3 * v + 2] - c[2] - b * (p[3 * v] - c[0]) - e * (p[3 * v + 1] - c[1])) ** 2;
  const plane = { a: c[2] - b * c[0] - e * c[1], b, c: e, flat: Math.sqrt(Math.max(0, s / w - noise * noise)) };
  return { vertices, plane, area: w, centre: c };
}

const merged = (floors: readonly Floor[], r: TargetRegion, noise: number): Floor | null =>
  floors.length === 0
    ? null
    : floors.length === 1
      ? floors[0]
      : floorOf(
          floors.flatMap((f) => [...f.vertices]),
          r,
          noise,
        );

/** mm by which pieces of one floor may lie over each other: what is deeper is another floor. */
const SAME_LEVEL = 0.7;
const sameLevel = (f: Floor, to: Floor): boolean => Math.abs(f.centre[2] - floorAt(to.plane, f.centre[0], f.centre[1])) < SAME_LEVEL;

/** Points of the preparation at a hole of the scan: a floor that ends there may as well open on the tooth's side. */
function borderOf(r: TargetRegion): Vec3[] {
  const { positions: p, triangles: t } = r.mesh;
  const neighbours = triangleNeighbours(t, p.length / 3);
  const found = new Set<number>();
  for (let i = 0; i < t.length; i++) {
    if (neighbours[i] >= 0) continue;
    const next = i - (i % 3) + ((i + 1) % 3);
    if (r.prepared[t[i]] && r.prepared[t[next]]) found.add(t[i]);
  }
  return Array.from(found, (v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
}

/** How near the floor comes to some points: the 4 % of its own that come nearest. */
function nearTo(r: TargetRegion, f: Floor, ends: readonly Vec3[]): number {
  if (ends.length === 0) return Infinity;
  const p = r.mesh.positions;
  const step = Math.max(1, Math.floor(f.vertices.length / 500));
  const distances: number[] = [];
  for (let i = 0; i < f.vertices.length; i += step) {
    const v = f.vertices[i];
    let best = Infinity;
    for (const e of ends) best = Math.min(best, (p[3 * v] - e[0]) ** 2 + (p[3 * v + 1] - e[1]) ** 2 + (p[3 * v + 2] - e[2]) ** 2);
    distances.push(Math.sqrt(best));
  }
  return quantile(distances, 0.04);
}

export const floorAt = (f: FloorPlane, x: number, y: number): number => f.a + f.b * x + f.c * y;

/** The axial wall of a box: walls that look to its side, over its floor and (where there is one) under the pulpal floor. */
function axialOf(r: TargetRegion, floor: Floor, pulpal: Floor | null, sign: 1 | -1): Box['axial'] {
  const p = r.mesh.positions;
  const ys = floor.vertices.map((v) => p[3 * v + 1]);
  const [y0, y1] = [quantile(ys, 0.03), quantile(ys, 0.97)];
  const vertices: number[] = [];
  for (let v = 0; v < r.areas.length; v++) {
    if (!isWall(r, v) || r.normals[3 * v] * sign < 0.7 || p[3 * v] * sign < 0) continue;
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (y < y0 || y > y1 || z < floorAt(floor.plane, x, y) + 0.25) continue;
    if (pulpal && z > floorAt(pulpal.plane, x, y) - 0.2) continue;
    if (Math.abs(x) > Math.abs(floor.centre[0]) + 0.3) continue;
    vertices.push(v);
  }
  if (isScrap(r, vertices)) return null;
  const zFloor = floor.centre[2];
  // x = a + by + cy² + d (z − floor): the wall carried down to the floor's level.
  const rows = vertices.map((v) => ({ f: [1, p[3 * v + 1], p[3 * v + 1] ** 2, p[3 * v + 2] - zFloor], x: p[3 * v], w: r.areas[v] }));
  const fit = leastSquares(rows);
  return fit && { a: fit[0], b: fit[1], c: fit[2], d: fit[3], z: zFloor, vertices };
}

/** Weighted least squares by normal equations, with a pinch of ridge so that a narrow wall does not swing. */
export function leastSquares(rows: readonly { f: readonly number[]; x: number; w: number }[]): number[] | null {
  const n = rows[0].f.length;
  const a = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { f, x, w } of rows)
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) a[i][j] += w * f[i] * f[j];
      a[i][n] += w * f[i] * x;
    }
  for (let i = 0; i < n; i++) a[i][i] *= 1 + 1e-9;
  for (let i = 0; i < n; i++) {
    let best = i;
    for (let k = i + 1; k < n; k++) if (Math.abs(a[k][i]) > Math.abs(a[best][i])) best = k;
    [a[i], a[best]] = [a[best], a[i]];
    if (Math.abs(a[i][i]) < 1e-12) return null;
    for (let k = 0; k < n; k++) {
      if (k === i) continue;
      const q = a[k][i] / a[i][i];
      for (let j = i; j <= n; j++) a[k][j] -= q * a[i][j];
    }
  }
  return a.map((row, i) => row[n] / row[i]);
}

/** Where the axial wall stands at y: at the gingival floor's level, or as it leans up to z. */
export const axialX = (box: Box, y: number, z?: number): number | null =>
  box.axial && box.axial.a + box.axial.b * y + box.axial.c * y * y + (z === undefined ? 0 : box.axial.d * (z - box.axial.z));

/** Which side of the cavity a wall point stands on: its normal looks the other way. */
function sideOf(r: TargetRegion, v: number): WallSide {
  const x = -r.normals[3 * v];
  const y = -r.normals[3 * v + 1];
  return Math.abs(y) >= Math.abs(x) ? (y > 0 ? 'facial' : 'lingual') : x > 0 ? 'mesial' : 'distal';
}

/** Whether a wall looks away from the tooth's middle, as a covered cusp's outer wall does. */
function looksOut(r: TargetRegion, v: number): boolean {
  const p = r.mesh.positions;
  const [x, y] = [p[3 * v], p[3 * v + 1]];
  return r.normals[3 * v] * x + r.normals[3 * v + 1] * y > 0.3 * Math.hypot(x, y);
}

/** Names every wall and floor point; between walls and floors, and where a side wall's run out, points stay unnamed. */
function partsOf(r: TargetRegion, pulpal: Floor | null, boxes: readonly Box[], covering: boolean): Map<PartName, number[]> {
  const parts = new Map<PartName, number[]>();
  const add = (name: PartName, v: number): void => {
    const list = parts.get(name);
    if (list) list.push(v);
    else parts.set(name, [v]);
  };
  const p = r.mesh.positions;
  if (pulpal) for (const v of pulpal.vertices) add('pulpal floor', v);
  for (const b of boxes) {
    for (const v of b.floor.vertices) add(`${b.side} floor`, v);
    for (const v of b.axial?.vertices ?? []) add(`axial ${b.side}`, v);
  }
  const axial = new Set(boxes.flatMap((b) => [...(b.axial?.vertices ?? [])]));
  for (let v = 0; v < r.areas.length; v++) {
    if (!isWall(r, v) || axial.has(v) || (covering && looksOut(r, v))) continue;
    const side = sideOf(r, v);
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const box = boxes.find((b) => {
      const wall = axialX(b, y);
      return wall !== null ? b.sign * (x - wall) > 0.15 : b.sign * x > 0 && z < (pulpal ? floorAt(pulpal.plane, x, y) : Infinity);
    });
    if (box) {
      if (side === 'facial' || side === 'lingual') add(`box ${box.side} ${side}`, v);
    } else if (pulpal && z > floorAt(pulpal.plane, x, y) + 0.05) add(side, v);
  }
  return parts;
}
