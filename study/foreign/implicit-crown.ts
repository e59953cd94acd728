// Family "implicit", crowns: a superelliptic stump on a ledge, as functions of place.

import type { Vec3 } from '#core/linalg/vec.ts';
import { bisected } from './bisected.ts';
import type { Truth } from './case.ts';
import { SIDES } from './depth-zones.ts';
import { exitAngleAt } from './exit-truth.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { gum, type ImplicitTooth, landmarks, outside, shaft, top, uncut } from './implicit-tooth.ts';

const RAD = Math.PI / 180;
export type Sides = Readonly<Record<'facial' | 'mesial' | 'lingual' | 'distal', number>>;

/** A stump: leans are degrees of each side's wall to the long axis (+ converging), the rest mm. */
export interface ImplicitCrown {
  /** Ledge's height over the gingiva. */
  readonly over: number;
  readonly width: Sides;
  readonly lean: Sides;
  /** How far the top is lowered. */
  readonly down: number;
  /** Radius between wall and ledge, and of the edge between wall and top. */
  readonly fillet: number;
  readonly edge: number;
  /** Of an anterior tooth: how its edge is shortened. */
  readonly incisal?: IncisalCut;
  /** Of a posterior tooth: a plane over its functional cusps. */
  readonly bevel?: FunctionalBevel;
  /** Bevel of the margin, on which the ledge ends outward. */
  readonly rim?: Rim;
  /** Of an anterior tooth: a hollow over its lingual wall, and a second plane over its facial one. */
  readonly fossa?: Fossa;
  readonly facial?: FunctionalBevel;
}

/** Degrees to the long axis, and mm inside the tooth's side from which the ledge falls. */
export interface Rim {
  readonly angle: number;
  readonly inset: number;
}

/** Distance from the middle and height at which the lingual wall ends; degrees to the long axis in and then up, and mm between both. */
export interface Fossa {
  readonly y: number;
  readonly z: number;
  readonly in: number;
  readonly up: number;
  readonly by: number;
  /** A ridge left along its middle: mm that it stands out, and half its width where it has fallen to a third. */
  readonly ridge?: { readonly high: number; readonly wide: number };
}

/** Two lingual planes, hollow where they meet; + outside, mm. */
export function fossaOf(f: Fossa): Body {
  const first = bevelPlane({ angle: f.in, side: -1, y: f.y, z: f.z });
  const second = bevelPlane({ angle: f.up, side: -1, y: f.y - f.by, z: f.z + f.by / Math.tan(f.in * RAD) });
  const join = f.in > f.up ? roundedEither : roundedBoth;
  const { high, wide } = f.ridge ?? { high: 0, wide: 1 };
  return (x, y0, z) => {
    const y = y0 + high * Math.exp(-((x / wide) ** 2));
    return join(first(x, y, z), second(x, y, z), HOLLOW);
  };
}
/** mm: radius of a fossa's hollow. */
const HOLLOW = 1.5;

/** Degrees of a plane's face to the long axis, and the side, distance from the middle and height of a line in it. */
export interface FunctionalBevel {
  readonly angle: number;
  readonly side: 1 | -1;
  readonly y: number;
  readonly z: number;
}

/** The bevel's plane; + outside, mm. */
export const bevelPlane =
  ({ angle, side, y: y0, z: z0 }: FunctionalBevel): Body =>
  (_, y, z) =>
    (side * y - y0) * Math.cos(angle * RAD) + (z - z0) * Math.sin(angle * RAD);

export interface IncisalCut {
  /** Degrees by which the cut falls to lingual of square to the long axis, and to both sides of a canine's tip. */
  readonly fall: number;
  readonly slopes: number;
}

/** The surface to which the top is cut; + outside. */
function cutTop(t: ImplicitTooth, c: ImplicitCrown): Body {
  const { incisal } = c;
  if (!incisal) {
    const floor: Body = (x, y, z) => 0.8 * (z - top(t, x, y) + c.down);
    const plane = c.bevel && bevelPlane(c.bevel);
    return plane ? (x, y, z) => roundedBoth(floor(x, y, z), plane(x, y, z), c.edge) : floor;
  }
  const [fall, slope] = [incisal.fall, incisal.slopes].map((a) => Math.tan(a * RAD));
  const at = t.h - c.down;
  const half =
    (s: 1 | -1): Body =>
    (x, y, z) =>
      (z - at - fall * y + s * slope * x) / Math.hypot(1, fall, slope);
  const [mesial, distal] = [half(1), half(-1)];
  const edge: Body = slope > 0 ? (x, y, z) => roundedBoth(mesial(x, y, z), distal(x, y, z), 0.3) : mesial;
  const faces = [c.fossa && fossaOf(c.fossa), c.facial && bevelPlane(c.facial)].filter((q) => q !== undefined);
  return faces.reduce<Body>((cut, face) => (x, y, z) => roundedBoth(cut(x, y, z), face(x, y, z), c.edge), edge);
}

/** Exponent of the stump's plan: not the tooth's own, so that the margin's width changes a little round it. */
const N = 2.6;

/** Height of the ledge over (x, y). */
export const ledgeAt = (c: ImplicitCrown, x: number, y: number): number => c.over - gum(x, y, 0);

/** Half axes of the stump's plan at a height, in the quadrant of (x, y). */
function halfAxes(t: ImplicitTooth, c: ImplicitCrown, x: number, y: number, z: number): [number, number] {
  const axis = (side: keyof Sides): number => {
    const phi = SIDES[side] * RAD;
    const z0 = ledgeAt(c, (Math.sin(phi) * t.md) / 2, (Math.cos(phi) * t.fl) / 2);
    const at = outside(t, SIDES[side], z0);
    return Math.hypot(at[0], at[1]) - c.width[side] - (z - z0) * Math.tan(c.lean[side] * RAD);
  };
  return [axis(x > 0 ? 'mesial' : 'distal'), axis(y > 0 ? 'facial' : 'lingual')];
}

/** The stump's wall; + outside, about mm. */
export function wallOf(t: ImplicitTooth, c: ImplicitCrown): Body {
  // Half axes are linear in z: two heights give them all.
  const known = new Map<string, [[number, number], [number, number]]>();
  const axes = (x: number, y: number, z: number): [number, number] => {
    const key = `${x > 0} ${y > 0}`;
    let ends = known.get(key);
    if (!ends) {
      ends = [halfAxes(t, c, x, y, 0), halfAxes(t, c, x, y, 1)];
      known.set(key, ends);
    }
    const [p, q] = ends;
    return [p[0] + z * (q[0] - p[0]), p[1] + z * (q[1] - p[1])];
  };
  return (x, y, z) => {
    const [a, b] = axes(x, y, z);
    if (a < 0.3 || b < 0.3) return 3;
    return ((Math.abs(x / a) ** N + Math.abs(y / b) ** N) ** (1 / N) - 1) * Math.min(a, b);
  };
}

/** Stump and ledge alone: what is left of a tooth that fills its surroundings. */
export function stumpOf(t: ImplicitTooth, c: ImplicitCrown): Body {
  const [wall, cut] = [wallOf(t, c), cutTop(t, c)];
  return (x, y, z) => {
    const stump = roundedBoth(wall(x, y, z), cut(x, y, z), c.edge);
    const ledge = z - ledgeAt(c, x, y);
    if (!c.rim) return roundedEither(stump, ledge, c.fillet);
    const rim = (shaft(t, x, y, z) + c.rim.inset) * Math.cos(c.rim.angle * RAD) + ledge * Math.sin(c.rim.angle * RAD);
    return roundedEither(stump, Math.max(ledge, rim), c.fillet);
  };
}

export function prepared(t: ImplicitTooth, c: ImplicitCrown): Body {
  const [own, stump] = [uncut(t), stumpOf(t, c)];
  return (x, y, z) => Math.max(own(x, y, z), stump(x, y, z));
}

export const mean = (v: readonly number[]): number => v.reduce((s, q) => s + q, 0) / v.length;

/** The gingival margin's middle, each of its sides by its length: where the tooth's frame has its origin. */
export function middleOf(points: readonly Vec3[]): Vec3 {
  let [length, x, y, z] = [0, 0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    const l = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
    length += l;
    x += (l * (p[0] + q[0])) / 2;
    y += (l * (p[1] + q[1])) / 2;
    z += (l * (p[2] + q[2])) / 2;
  });
  return [x / length, y / length, z / length];
}

/** mm over the ledge from which a wall's lean is taken, and how far up: a short wall is straight, an anterior one bends a little on its way to the top. */
const FROM = 0.6;
const TO = 1.8;
/** mm under the top of an anterior stump at which its wall ends, and places along a wall. */
const UNDER_TOP = 0.8;
const PLACES = 9;

/** Degrees to the long axis of the line through a wall's places, + converging. */
function leanOf(at: (z: number) => number, low: number, high: number): number {
  const heights = Array.from({ length: PLACES }, (_, i) => ((i - (PLACES - 1) / 2) * (high - low)) / (PLACES - 1));
  const middle = (low + high) / 2;
  return Math.atan(-heights.reduce((s, h) => s + h * at(middle + h), 0) / heights.reduce((s, h) => s + h * h, 0)) / RAD;
}

/** mm that the finish line lies under the ledge: what a bevel takes. */
export const dropOf = ({ rim }: ImplicitCrown): number => (rim ? rim.inset / Math.tan(rim.angle * RAD) : 0);

/** Height of the finish line at an azimuth about the axis through `o`: where the ledge, or its bevel's end, meets the tooth's side. */
export function finishHeight(t: ImplicitTooth, c: ImplicitCrown, [x0, y0]: Vec3, phi: number): number {
  const [sx, sy] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
  let z = c.over;
  for (let i = 0; i < 30; i++) {
    const r = bisected((q) => shaft(t, x0 + q * sx, y0 + q * sy, z), 0, 9);
    z = c.over - dropOf(c) - gum(x0 + r * sx, y0 + r * sy, 0);
  }
  return z;
}

/** True values of a whole crown; also those of the sides and sectors that a partial one covers. */
export function crownTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const out: Truth[] = [];
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  for (const side of ['mesial', 'distal']) say(`neighbour.${side}`, null, 'max', 0);
  const o = middleOf(landmarks(t).gingivalMargin);
  const [wall, left] = [wallOf(t, c), prepared(t, c)];
  /** How far from the axis a body is left at an azimuth and a height. */
  const reach = (f: Body, phi: number, z: number): number => {
    let [lo, hi] = [0, 9];
    for (let i = 0; i < 50; i++) {
      const m = (lo + hi) / 2;
      if (f(o[0] + m * Math.sin(phi * RAD), o[1] + m * Math.cos(phi * RAD), z) < 0) lo = m;
      else hi = m;
    }
    return lo;
  };
  const side: Body = (x, y, z) => shaft(t, x, y, z);
  const places = Array.from({ length: 180 }, (_, k) => {
    const phi = 2 * k;
    const on = (f: Body, over = c.over): { r: number; z: number } => {
      let [r, z] = [4, over];
      for (let i = 0; i < 30; i++) {
        r = reach(f, phi, z);
        z = over - gum(o[0] + r * Math.sin(phi * RAD), o[1] + r * Math.cos(phi * RAD), 0);
      }
      return { r, z };
    };
    const [finish, foot, neck] = [on(side, c.over - dropOf(c)), on(wall), on(side, 0)];
    const ledge = finish.z + dropOf(c);
    const [low, high] = [ledge + FROM, c.incisal ? t.h - c.down - UNDER_TOP : ledge + TO];
    return {
      phi,
      width: finish.r - foot.r,
      height: finish.z - neck.z,
      exit: exitAngleAt(left, o, phi, finish),
      lean: leanOf((z) => reach(wall, phi, z), low, high),
    };
  });
  const within = (at: number | null, half = 45) => places.filter((p) => at === null || Math.abs(((p.phi - at + 540) % 360) - 180) <= half);
  for (const [zone, at] of [
    [null, null],
    ['facial', 0],
    ['mesial', 90],
    ['lingual', 180],
    ['distal', 270],
  ] as const) {
    const own = within(at);
    const stats = (name: string, values: readonly number[], which: readonly string[]): void => {
      const v = [...values].sort((a, b) => a - b);
      const by: Record<string, number> = {
        min: v[0],
        p05: v[Math.round(0.05 * (v.length - 1))],
        median: v[v.length >> 1],
        p95: v[Math.round(0.95 * (v.length - 1))],
      };
      for (const stat of which) say(name, zone, stat, by[stat]);
    };
    const told = ['p05', 'median', 'p95'];
    for (const [name, of, which] of [
      ['margin.width', 'width', ['min', ...told]],
      ['margin.exit', 'exit', told],
      ['wall.lean', 'lean', ['median']],
      ['margin.gingiva', 'height', ['min', 'median', 'p95']],
    ] as const)
      stats(
        name,
        own.map((p) => p[of]),
        which,
      );
  }
  say('margin.lip', null, 'max', 0);
  const pairs = (at: number): number => mean(within(at, 30).map((p) => p.lean + places[(p.phi / 2 + 90) % 180].lean));
  say('toc.faciolingual', null, 'mean', pairs(0));
  say('toc.mesiodistal', null, 'mean', pairs(90));
  if (Math.min(...places.map((p) => p.lean)) > 1) say('undercut.depth', null, 'max', 0);
  return out;
}

export const sides = (facial: number, mesial = facial, lingual = facial, distal = mesial): Sides => ({ facial, mesial, lingual, distal });
export const crown = (over: number, width: Sides, lean: Sides, down: number, fillet: number, edge: number): ImplicitCrown => ({
  over,
  width,
  lean,
  down,
  fillet,
  edge,
});
