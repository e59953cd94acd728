import { azimuthOf } from '../../linalg/sectors.ts';
import { DEG } from '../../linalg/vec.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { atAzimuth, type CrownAnatomy } from './crown.ts';

/** `inner` = walls of boxes, slots, grooves and pinholes inside an onlay or a partial crown. */
export type SurfaceKind = 'none' | 'floor' | 'wall' | 'inner' | 'occlusal';

/** degrees: how well it is known how far a point's surface leans, since directions are averaged over its neighbours (standard uncertainty). */
export const LEAN_KNOWN = 8;

/** Cosine between a point's surface and the draw direction: 0 on an upright wall. */
export const upward = (normals: Float64Array, v: number, draw: readonly [number, number, number]): number =>
  normals[3 * v] * draw[0] + normals[3 * v + 1] * draw[1] + normals[3 * v + 2] * draw[2];

/** Height along the prepared side at a vertex: 0 at the finish line, 1 at the occlusoaxial edge. Null when either is unknown. */
export function heightShare(a: Pick<CrownAnatomy, 'wallTop' | 'finishZ'>, x: number, y: number, z: number): number | null {
  if (!a.wallTop || !a.finishZ) return null;
  const azimuth = azimuthOf(x, y);
  const foot = atAzimuth(a.finishZ, azimuth);
  const top = atAzimuth(a.wallTop, azimuth);
  return top - foot > 0.2 ? (z - foot) / (top - foot) : null;
}

/**
 * Splits the prepared region by direction: wall = within 30° of the draw direction; the rest is margin floor in the lower
 * half of the side and occlusal surface (bevels included) above it.
 */
export function classify(a: CrownAnatomy, draw: readonly [number, number, number]): SurfaceKind[] {
  const { region } = a;
  const p = region.mesh.positions;
  const steep = Math.sin(THRESHOLDS.wallWithin_deg * DEG);
  const full = a.covered.every(Boolean);
  // On the open side of a partial crown, and where a wall looks back to the middle, it is not the crown's outer wall.
  const outer = (v: number): boolean => {
    if (full) return true;
    const azimuth = azimuthOf(p[3 * v], p[3 * v + 1]);
    const k = Math.round((azimuth / 360) * a.covered.length) % a.covered.length;
    const out = region.normals[3 * v] * Math.sin(azimuth * DEG) + region.normals[3 * v + 1] * Math.cos(azimuth * DEG);
    return a.covered[k] && out > 0.5;
  };
  return Array.from({ length: region.depth.length }, (_, v): SurfaceKind => {
    if (!region.prepared[v]) return 'none';
    if (Math.abs(upward(region.normals, v, draw)) <= steep) return outer(v) ? 'wall' : 'inner';
    const share = heightShare(a, p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    return share !== null && share < 0.5 ? 'floor' : 'occlusal';
  });
}

/** Scanned cells of a plan-view grid of `cell` mm: those whose middle lies under a triangle. */
export class SeenPlan {
  private readonly cells = new Set<number>();
  constructor(
    { mesh }: Pick<CrownAnatomy['region'], 'mesh'>,
    private readonly cell = 0.25,
  ) {
    const { positions: p, triangles: t } = mesh;
    const middle = (i: number): number => (i + 0.5) * cell;
    const first = (x: number): number => Math.ceil(x / cell - 0.5);
    for (let f = 0; f < t.length; f += 3) {
      const [a, b, c] = [3 * t[f], 3 * t[f + 1], 3 * t[f + 2]];
      const [ax, ay, bx, by, cx, cy] = [p[a], p[a + 1], p[b], p[b + 1], p[c], p[c + 1]];
      const [maxX, maxY] = [Math.max(ax, bx, cx), Math.max(ay, by, cy)];
      for (let i = first(Math.min(ax, bx, cx)); middle(i) <= maxX; i++)
        for (let j = first(Math.min(ay, by, cy)); middle(j) <= maxY; j++) {
          const [x, y] = [middle(i), middle(j)];
          const u = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
          const v = (cx - bx) * (y - by) - (cy - by) * (x - bx);
          const w = (ax - cx) * (y - cy) - (ay - cy) * (x - cx);
          if ((u >= 0 && v >= 0 && w >= 0) || (u <= 0 && v <= 0 && w <= 0)) this.cells.add(i * 4096 + j);
        }
    }
  }
  seen(x: number, y: number): boolean {
    return this.cells.has(Math.floor(x / this.cell) * 4096 + Math.floor(y / this.cell));
  }
  /** Share of the grid places accepted by `inside`, within `reach` of (x, y), that were seen. */
  share(x: number, y: number, reach: number, inside: (x: number, y: number) => boolean): number {
    let all = 0;
    let seen = 0;
    for (let u = x - reach; u <= x + reach; u += this.cell)
      for (let v = y - reach; v <= y + reach; v += this.cell)
        if (inside(u, v)) {
          all++;
          if (this.seen(u, v)) seen++;
        }
    return all ? seen / all : 0;
  }
}
