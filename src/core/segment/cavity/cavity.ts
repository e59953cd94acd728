import type { Alignment } from '../../align/align.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import type { Plan } from '../../linalg/plan.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import type { Master } from '../../master/master.ts';
import { triangleNeighbours } from '../../mesh/mesh.ts';
import { median, quantile } from '../../statistics/quantile.ts';
import { isScrap, type TargetRegion, targetRegion } from '../target.ts';
import { boxFloor, type Floor, floorAt, floorsOf, isWall, LEVEL, merged, sameLevel, sunken, TABLE_LEVEL } from './floors.ts';
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
    /** Those that the surface was fitted to: away from the facial and lingual walls. */
    readonly fitted: readonly number[];
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

/** mm: a floor this near to the outline opens on the tooth's side. */
const OPEN_WITHIN = 0.35;
/** mm from its floor, and under it, at which a bevelled margin may run. */
const OVER_BEVEL = 1.2;
const UNDER = 0.1;
/** Share of a pulpal floor's depth that each of its pieces has at the least. */
const SHALLOW = 0.5;

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
    if (((covering || aside) && nearTo(region, f, edge) < within) || (aside && nearTo(region, f, holes) < within)) return true;
    // A bevelled gingival margin lies farther off, but under the floor: other floors have their outline over them.
    const under = edge.filter((e) => e[2] < floorAt(f.plane, e[0], e[1]) - UNDER);
    return aside && !covering && nearTo(region, f, under) < OVER_BEVEL;
  });
  const closed = floors.filter((f) => !open.includes(f) && (!covering || sunken(region, f)));
  // A level shoulder may lie at the pulpal floor's height, but not as deep under the tooth.
  const pieces = closed
    .map((f) => ({ f, depth: covering ? median(f.vertices.map((v) => region.depth[v])) : 1 }))
    .sort((a, b) => b.f.area * b.depth - a.f.area * a.depth);
  const [main] = pieces;
  const own = pieces.filter(({ f, depth }) => f.area > 0.15 * main.f.area && sameLevel(f, main.f) && depth > SHALLOW * main.depth);
  const pulpal = merged(
    own.map(({ f }) => f),
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

/** mm kept clear of the rounding into the box's facial and lingual walls. */
const OFF_SIDES = 0.3;

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
  const clear = vertices.filter((v) => p[3 * v + 1] >= y0 + OFF_SIDES && p[3 * v + 1] <= y1 - OFF_SIDES);
  const fitted = isScrap(r, clear) ? vertices : clear;
  const rows = fitted.map((v) => ({ f: [1, p[3 * v + 1], p[3 * v + 1] ** 2, p[3 * v + 2] - zFloor], x: p[3 * v], w: r.areas[v] }));
  const fit = leastSquares(rows);
  return fit && { a: fit[0], b: fit[1], c: fit[2], d: fit[3], z: zFloor, vertices, fitted };
}

/** Where the axial wall stands at y: at the gingival floor's level, or as it leans up to z. */
export const axialX = (box: Box, y: number, z?: number): number | null =>
  box.axial && box.axial.a + box.axial.b * y + box.axial.c * y * y + (z === undefined ? 0 : box.axial.d * (z - box.axial.z));

/** Side of the cavity of a wall point: its normal faces the opposite side. */
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

/** A mesial wall lies mesially of the floor's middle, a distal one distally: shoulders of a box that look the same way do not. */
const liesOn = (side: WallSide, x: number, floor: Floor): boolean =>
  side === 'mesial' ? x > floor.centre[0] : side === 'distal' ? x < floor.centre[0] : true;

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
    } else if (pulpal && z > floorAt(pulpal.plane, x, y) + 0.05 && liesOn(side, x, pulpal)) add(side, v);
  }
  return parts;
}
