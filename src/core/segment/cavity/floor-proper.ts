import type { CavityAnatomy } from './cavity.ts';
import { type Floor, type FloorPlane, floorOf } from './floors.ts';

/** Cosine of the most that a floor's point may look away from its plane: beyond it the rounding into the wall has begun. */
const LEVEL = Math.cos((15 * Math.PI) / 180);

const known = new WeakMap<Floor, readonly number[]>();

/** The plane through a floor's points without the rounding into its walls. */
export const properPlane = (a: CavityAnatomy, f: Floor): FloorPlane =>
  floorOf(floorProper(a, f), a.region, a.alignment.noise)?.plane ?? f.plane;

/** Points of a floor without the rounding into its walls and without its rim, which a scan blunts over one of its own triangles; all of them where hardly any would be left. */
export function floorProper(a: CavityAnatomy, f: Floor): readonly number[] {
  const before = known.get(f);
  if (before) return before;
  const n = a.region.normals;
  const l = Math.hypot(f.plane.b, f.plane.c, 1);
  const { start, list } = a.region.adjacency;
  const floor = new Set(f.vertices);
  const onRim = (v: number): boolean => {
    for (let i = start[v]; i < start[v + 1]; i++) if (!floor.has(list[i])) return true;
    return false;
  };
  const inner = f.vertices.filter((v) => (n[3 * v + 2] - f.plane.b * n[3 * v] - f.plane.c * n[3 * v + 1]) / l >= LEVEL && !onRim(v));
  const own = inner.length > f.vertices.length / 3 ? inner : f.vertices;
  known.set(f, own);
  return own;
}
