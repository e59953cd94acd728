// Family "implicit", slots: grooves and boxes cut down along the wall of a partial cover, with what is true of them.
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { type ImplicitCrown, ledgeAt, wallOf } from './implicit-crown.ts';
import { type Body, gradient, roundedBoth } from './implicit-mesh.ts';
import type { ImplicitTooth } from './implicit-tooth.ts';
import { level } from './implicit-truths.ts';
import { type Notch, notchTruths, placeOfEdge } from './notch-truths.ts';

const RAD = Math.PI / 180;

export interface Slot {
  readonly side: 'mesial' | 'distal';
  /** Round: a cutter of this width. Otherwise a box with a level axial wall, its corners rounded by 0.2 mm. */
  readonly round: boolean;
  readonly width: number;
  readonly depth: number;
  /** y of its middle, and mm over the finish line at which it ends. */
  readonly y: number;
  readonly over: number;
  /** Degrees by which it leans to facial. */
  readonly lean: number;
}

export const slot = (side: Slot['side'], change: Partial<Slot> = {}): Slot => ({
  side,
  round: true,
  width: 1,
  depth: 0.7,
  y: 1,
  over: 0.5,
  lean: 0,
  ...change,
});
/** Radius of a box's inner corners in plan. */
const CORNER = 0.2;

/** The slot in place: its foot's height, its cutter and a place inside of it. */
export function placed(t: ImplicitTooth, cover: ImplicitCrown, s: Slot) {
  const way = s.side === 'mesial' ? 1 : -1;
  const wall = wallOf(t, cover);
  const wallX = (z: number): number => {
    let [lo, hi] = [0, 9];
    for (let i = 0; i < 50; i++) {
      const m = (lo + hi) / 2;
      if (wall(way * m, s.y, z) < 0) lo = m;
      else hi = m;
    }
    return way * lo;
  };
  const finish = ledgeAt(cover, level(t, way, s.y, 1) * way, s.y);
  const from = finish + s.over;
  const middle = from + 1.2;
  const at: Vec3 = [wallX(middle), s.y, middle];
  const g = gradient(wall, at);
  const l = Math.hypot(g[0], g[1]);
  const [ox, oy] = [g[0] / l, g[1] / l];
  const slope = Math.tan(s.lean * RAD);
  const radius = s.width / 2;
  /** Across, to facial, and outward from the wall's own place at the middle height. */
  const local = (x: number, y: number, z: number): readonly [number, number] => {
    const [dx, dy] = [x - at[0], y - at[1] - (z - middle) * slope];
    return [dx * -oy * way + dy * ox * way, dx * ox + dy * oy];
  };
  const cutter: Body = (x, y, z) => {
    const [u, v] = local(x, y, z);
    const plan = s.round
      ? v < radius - s.depth
        ? Math.hypot(u, v - radius + s.depth) - radius
        : Math.abs(u) - radius
      : roundedBoth(Math.abs(u) - radius, -(v + s.depth), CORNER);
    return roundedBoth(plan, from - z, 0.1);
  };
  const inner = (z: number): readonly [number, number] => {
    const v = -0.4 * s.depth;
    return [at[0] + v * ox, at[1] + v * oy + (z - middle) * slope];
  };
  return { finish, from, cutter, inner };
}

/** What is true of slots in a solid whose facial plate begins at a y: of each, and of both to each other. */
export function slotTruths(t: ImplicitTooth, cover: ImplicitCrown, slots: readonly Slot[], plate: number, solid: Body): Truth[] {
  const out: Truth[] = [];
  for (const s of slots) {
    const { finish, from, cutter, inner } = placed(t, cover, s);
    // Where the notch's middle runs out of the solid's top.
    let top = from;
    while (top < 12 && solid(...inner(top), top) < 0) top += 0.05;
    const notch: Notch = { zone: s.side, solid, cutter, middle: inner, from: from + 0.15, to: top - cover.edge, level: !s.round };
    const way = s.side === 'mesial' ? 1 : -1;
    out.push(
      ...notchTruths(notch),
      { name: 'groove.place.finish', zone: s.side, stat: 'value', value: from - finish },
      placeOfEdge(notch, (z) => [way * level(t, way, plate, z), plate]),
    );
  }
  const [a, b] = slots;
  if (a && b) out.push({ name: 'groove.parallel', zone: 'mesial distal', stat: 'value', value: Math.abs(a.lean - b.lean) });
  return out;
}
