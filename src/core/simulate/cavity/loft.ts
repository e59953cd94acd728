import type { Solid } from '../../anatomy/tessellate.ts';
import { toRadians, type Vec3 } from '../../linalg/vec.ts';
import { ringSolid, thinned } from '../rings.ts';
import type { Waves } from './recipe.ts';

/** A corner of a floor's plan: where, which way is out of the cavity, and how its wall stands (degrees, + converging upward). */
export interface PlanPoint {
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
  readonly taper: number;
}

/** A cavity part as the cutter leaves it: a floor of any height, straight walls over its plan, a fillet between. */
export interface Loft {
  readonly plan: readonly PlanPoint[];
  floor(x: number, y: number): number;
  readonly radius: number;
  readonly top: number;
  readonly chatter?: Waves;
  /** A line along x that the floor is drawn together to; towards its middle point when left out. */
  readonly spine?: (x: number, y: number) => readonly [number, number];
}

/** Point of wall `i` at `h` mm above the floor's level at its foot. */
export function wallPoint(l: Loft, i: number, h: number): [number, number, number] {
  const p = l.plan[i];
  const fillet = h < l.radius ? l.radius - Math.sqrt(l.radius ** 2 - (l.radius - h) ** 2) : 0;
  const wave = l.chatter && h > l.radius ? l.chatter.height * Math.sin((2 * Math.PI * (h - l.radius)) / l.chatter.length) : 0;
  const out = -h * Math.tan(toRadians(p.taper)) - fillet + wave;
  return [p.x + p.nx * out, p.y + p.ny * out, l.floor(p.x, p.y) + h];
}

/** Normals of a closed counter-clockwise plan, from its neighbours on both sides. */
export function withNormals(
  points: readonly (readonly [number, number])[],
  taper: (nx: number, ny: number, i: number) => number,
): PlanPoint[] {
  const n = points.length;
  return points.map(([x, y], i) => {
    const a = points[(i + n - 1) % n];
    const b = points[(i + 1) % n];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const nx = (b[1] - a[1]) / l;
    const ny = -(b[0] - a[0]) / l;
    return { x, y, nx, ny, taper: taper(nx, ny, i) };
  });
}

/** Rings of points on floor, fillet and wall: none farther apart than a scanner’s own points. */
const FLOOR_RINGS = 10;
const FILLET_RINGS = 5;
const WALL_RINGS = 10;
/** Rings to a wave. */
const WAVE_RINGS = 8;

/** Closed solid of a loft, for subtraction. */
export function loftSolid(l: Loft): Solid {
  const n = l.plan.length;
  const cx = l.plan.reduce((s, p) => s + p.x, 0) / n;
  const cy = l.plan.reduce((s, p) => s + p.y, 0) / n;
  const rim = l.plan.map((_, i) => wallPoint(l, i, 0));
  const floor = Array.from({ length: FLOOR_RINGS }, (_, k) => {
    const f = (k + 1) / FLOOR_RINGS;
    return rim.map(([x, y]): Vec3 => {
      const [mx, my] = l.spine?.(x, y) ?? [cx, cy];
      const [px, py] = [mx + f * (x - mx), my + f * (y - my)];
      return [px, py, l.floor(px, py)];
    });
  });
  const rings: (readonly Vec3[])[] = l.spine ? floor : thinned(floor);
  if (l.radius > 0)
    for (let k = 1; k <= FILLET_RINGS; k++) {
      const h = l.radius * (1 - Math.cos((Math.PI / 2) * (k / FILLET_RINGS)));
      rings.push(l.plan.map((_, i) => wallPoint(l, i, h)));
    }
  const heights = l.plan.map((p) => l.top - l.floor(p.x, p.y));
  const walls = l.chatter ? Math.max(WALL_RINGS, Math.ceil((WAVE_RINGS * Math.max(...heights)) / l.chatter.length)) : WALL_RINGS;
  for (let k = 1; k <= walls; k++) rings.push(l.plan.map((_, i) => wallPoint(l, i, l.radius + ((heights[i] - l.radius) * k) / walls)));
  return l.spine ? ringSolid(null, rings, null) : ringSolid([cx, cy, l.floor(cx, cy)], rings, [cx, cy, l.top]);
}
