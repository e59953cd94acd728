import { DEG, type Vec3 } from '../../linalg/vec.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { isScrap, type TargetRegion } from '../target.ts';

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

/** mm²: a patch smaller than this is no floor. */
export const LEAST_FLOOR = 0.3;

/** mm beyond a floor's border in which the continuing surface is examined, and the height differences that count. */
export const BESIDE = 0.4;

/** mm over or under a floor’s level between which the ground beside it counts as rising or falling: more than noise, less than a wall. */
export const RISE = [0.2, 0.6] as const;

/** Whether the ground beside a floor rises on more of its border than it falls: a table on a cut cusp falls away all round. */
export function sunken(r: TargetRegion, f: Floor): boolean {
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
export const BOX_ARC = 38;

/** mm² of a box's floor at the least, and how far to one side (tangent) its middle may lie: else it is a piece of shoulder. */
export const LEAST_BOX = 1.2;

/** Tangent to the arch’s run beyond which a floor lies too far to one side to be a box’s. */
export const OFF_CENTRE = 0.45;

/** The part of the open floors that lies proximally, at one level. */
export function boxFloor(floors: readonly Floor[], r: TargetRegion, noise: number, sign: 1 | -1): Floor | null {
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

export const STEEP = Math.sin(THRESHOLDS.wallWithin_deg * DEG);

export const LEVEL = Math.cos(THRESHOLDS.wallWithin_deg * DEG);

export const isWall = (r: TargetRegion, v: number): boolean => r.prepared[v] === 1 && Math.abs(r.normals[3 * v + 2]) <= STEEP;

/** Under covered cusps only what is truly level is a floor: their tables slope like the cusps did. */
export const TABLE_LEVEL = Math.cos(16 * DEG);

/** Connected floor patches, the largest first. */
export function floorsOf(region: TargetRegion, noise: number, level: number): Floor[] {
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

export function floorOf(vertices: readonly number[], r: TargetRegion, noise: number): Floor | null {
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

export const merged = (floors: readonly Floor[], r: TargetRegion, noise: number): Floor | null =>
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
export const SAME_LEVEL = 0.7;

export const sameLevel = (f: Floor, to: Floor): boolean => Math.abs(f.centre[2] - floorAt(to.plane, f.centre[0], f.centre[1])) < SAME_LEVEL;

export const floorAt = (f: FloorPlane, x: number, y: number): number => f.a + f.b * x + f.c * y;
