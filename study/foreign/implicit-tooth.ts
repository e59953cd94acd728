import type { Vec3 } from '#core/linalg/vec.ts';
import { type Body, gradient, roundedBoth } from './implicit-mesh.ts';
import type { foreignMaster } from './scanner.ts';

/** A tooth as a superquadric shaft under a top of bell-shaped cusps; tooth frame, mm. */
export interface ImplicitTooth {
  readonly tooth: string;
  readonly md: number;
  readonly fl: number;
  readonly h: number;
  readonly cusps: readonly {
    readonly name: string;
    readonly role: 'functional' | 'non-functional';
    readonly x: number;
    readonly y: number;
    readonly up: number;
  }[];
  /** An anterior tooth: instead of a top with cusps, two faces that come together in an edge. */
  readonly blade?: Blade;
}

export interface Blade {
  /** mm between both faces at the edge's height, were they not rounded into it. */
  readonly thick: number;
  /** Degrees by which a canine's edge falls to both sides of its tip; 0: a level edge. */
  readonly slopes: number;
}

export const IMPLICIT_TEETH: Readonly<Record<string, ImplicitTooth>> = {
  molar36: {
    tooth: '36',
    md: 11,
    fl: 10.2,
    h: 6.9,
    cusps: [
      { name: 'MB', role: 'functional', x: 2.6, y: 2.9, up: 1.5 },
      { name: 'DB', role: 'functional', x: -2.4, y: 3, up: 1.3 },
      { name: 'ML', role: 'non-functional', x: 2.5, y: -2.8, up: 1.6 },
      { name: 'DL', role: 'non-functional', x: -2.6, y: -2.7, up: 1.4 },
    ],
  },
  molar17: {
    tooth: '17',
    md: 10,
    fl: 11.2,
    h: 6.4,
    cusps: [
      { name: 'MB', role: 'non-functional', x: 2.3, y: 3.3, up: 1.5 },
      { name: 'DB', role: 'non-functional', x: -2.1, y: 3.2, up: 1.2 },
      { name: 'ML', role: 'functional', x: 2, y: -3.1, up: 1.6 },
      { name: 'DL', role: 'functional', x: -2.4, y: -3.2, up: 1 },
    ],
  },
  premolar25: {
    tooth: '25',
    md: 7,
    fl: 9.4,
    h: 7.2,
    cusps: [
      { name: 'B', role: 'non-functional', x: 0.1, y: 2.9, up: 1.7 },
      { name: 'L', role: 'functional', x: -0.1, y: -2.8, up: 1.4 },
    ],
  },
  incisor21: { tooth: '21', md: 8.4, fl: 7.2, h: 10.4, cusps: [], blade: { thick: 1.6, slopes: 0 } },
  incisor31: { tooth: '31', md: 5.6, fl: 6.2, h: 9.2, cusps: [], blade: { thick: 1.3, slopes: 0 } },
  canine43: { tooth: '43', md: 7.2, fl: 7.8, h: 10.8, cusps: [], blade: { thick: 1.9, slopes: 22 } },
};

/** Height of the top without its rounded rim: a dish with a bell on each cusp, and ridges towards the neighbours. */
export function top(t: ImplicitTooth, x: number, y: number): number {
  let z = t.h - 1.5;
  for (const c of t.cusps) z += c.up * Math.exp(-((x - c.x) ** 2 + (y - c.y) ** 2) / (2 * 1.25 ** 2));
  for (const s of [1, -1]) z += 0.75 * Math.exp(-((x - s * 0.4 * t.md) ** 2) / (2 * 0.7 ** 2) - y ** 2 / (2 * 2.2 ** 2));
  return z;
}

/** The shaft: a superellipse that is widest a little over the middle; + outside, about mm. */
export function shaft(t: ImplicitTooth, x: number, y: number, z: number): number {
  const u = z / t.h;
  const wide = 1 - 0.22 * (u - 0.55) ** 2;
  const a = (t.md / 2) * wide * (x > 0 ? 1.02 : 0.98);
  const b = (t.fl / 2) * wide * (y > 0 ? 1.01 : 0.99) * (1 - 0.1 * Math.max(0, u - 0.5) ** 2);
  const n = 2.8;
  const q = (Math.abs(x / a) ** n + Math.abs(y / b) ** n) ** (1 / n);
  return (q - 1) * Math.min(a, b);
}

export const uncut = (t: ImplicitTooth): Body =>
  t.blade ? bladed(t, t.blade) : (x, y, z) => roundedBoth(shaft(t, x, y, z), 0.8 * (z - top(t, x, y)), 0.7);

/** Shares of a blade's height from which its facial and its lingual face lean inward: over its greatest width, and over its cingulum. */
const FACES_FROM = { facial: 0.35, lingual: 0.28 } as const;

/** One face of a blade, 1 facial and -1 lingual: a plane, outside positive. */
export function bladeFace(
  t: ImplicitTooth,
  { thick }: Blade,
  s: 1 | -1,
): { readonly slope: number; readonly from: number; readonly body: Body } {
  const from = FACES_FROM[s === 1 ? 'facial' : 'lingual'] * t.h;
  const slope = (t.fl / 2 - thick / 2) / (t.h - from);
  const cosine = 1 / Math.hypot(1, slope);
  return { slope, from, body: (_, y, z) => (s * y - t.fl / 2 + slope * (z - from)) * cosine };
}

/** A shaft between two leaning planes, under an edge; all of it rounded. */
function bladed(t: ImplicitTooth, blade: Blade): Body {
  const { slopes } = blade;
  const [facial, lingual] = ([1, -1] as const).map((side) => bladeFace(t, blade, side).body);
  const fall = Math.tan((slopes * Math.PI) / 180);
  const edge: Body = (x, _, z) => roundedBoth(z - t.h + fall * x, z - t.h - fall * x, 0.4);
  return (x, y, z) => {
    const sides = roundedBoth(shaft(t, x, y, z), roundedBoth(facial(x, y, z), lingual(x, y, z), 0.4), 1);
    return roundedBoth(sides, edge(x, y, z), 0.35);
  };
}

export const gum: Body = (x, y, z) => z - (0.1 + 0.35 * Math.cos((2 * Math.PI * x) / 11) - 0.012 * (Math.abs(y) - 4) ** 2);

/** Highest place of a body near (x, y), by steps up the slope of its top; its height is about `h`. */
export function peak(body: Body, h: number, x: number, y: number): Vec3 {
  const height = (u: number, v: number): number => {
    let [lo, hi] = [h - 4, h + 2];
    for (let i = 0; i < 50; i++) {
      const m = (lo + hi) / 2;
      if (body(u, v, m) < 0) lo = m;
      else hi = m;
    }
    return lo;
  };
  let [u, v] = [x, y];
  for (let step = 0.2; step > 1e-4; step /= 2)
    for (let moved = true; moved; ) {
      moved = false;
      for (const [du, dv] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ])
        if (height(u + du * step, v + dv * step) > height(u, v) + 1e-9) {
          u += du * step;
          v += dv * step;
          moved = true;
        }
    }
  return [u, v, height(u, v)];
}

/** Where the ray from the axis at an azimuth (degrees, 0 facial, 90 mesial) leaves the shaft at height z. */
export function outside(t: ImplicitTooth, phi: number, z: number): Vec3 {
  const [s, c] = [Math.sin((phi * Math.PI) / 180), Math.cos((phi * Math.PI) / 180)];
  let [lo, hi] = [0, 12];
  for (let i = 0; i < 60; i++) {
    const r = (lo + hi) / 2;
    if (shaft(t, r * s, r * c, z) < 0) lo = r;
    else hi = r;
  }
  return [lo * s, lo * c, z];
}

/** Height of the uncut tooth over (x, y). */
export function over(t: ImplicitTooth, x: number, y: number): number {
  const body = uncut(t);
  let [lo, hi] = [2, t.h + 2];
  for (let i = 0; i < 50; i++) {
    const m = (lo + hi) / 2;
    if (body(x, y, m) < 0) lo = m;
    else hi = m;
  }
  return lo;
}

/** A tooth's landmarks where it stands: at the origin, or beside it along the gum. */
export function landmarks(t: ImplicitTooth, [dx, dy]: readonly [number, number] = [0, 0]): Parameters<typeof foreignMaster>[3] {
  const placed = ([x, y, z]: Vec3): Vec3 => [x + dx, y + dy, z];
  const margin = Array.from({ length: 36 }, (_, k) => {
    let z = 0;
    for (let i = 0; i < 20; i++) {
      const [x, y] = outside(t, 10 * k, z);
      z -= gum(x + dx, y + dy, z);
    }
    return outside(t, 10 * k, z);
  });
  const ridge = (s: 1 | -1): Vec3[] => [-1, 0, 1].map((y) => [s * 0.4 * t.md, y, top(t, s * 0.4 * t.md, y)]);
  const groove = t.blade ? [] : [-0.28, -0.14, 0, 0.14, 0.28].map((u): Vec3 => [u * t.md, 0, top(t, u * t.md, 0)]);
  return {
    cusps: t.cusps.map((c) => ({ name: c.name, role: c.role, at: placed(peak(uncut(t), t.h, c.x, c.y)) })),
    groove: groove.map(placed),
    mesialRidge: ridge(1).map(placed),
    distalRidge: ridge(-1).map(placed),
    mesialContact: placed(outside(t, 90, 0.55 * t.h)),
    distalContact: placed(outside(t, 270, 0.55 * t.h)),
    gingivalMargin: margin.map(placed),
  };
}

/** A neighbour: the same tooth a little larger or smaller, and how far along the arch it stands. */
export function besideOf(t: ImplicitTooth, s: 1 | -1): { readonly n: ImplicitTooth; readonly apart: number } {
  const size = s === 1 ? 0.88 : 1.1;
  const n: ImplicitTooth = {
    ...t,
    md: t.md * size,
    fl: t.fl * (0.4 + 0.6 * size),
    h: t.h * (1.06 - 0.06 * size),
    cusps: t.cusps.map((c) => ({ ...c, x: c.x * size, y: c.y * (0.4 + 0.6 * size), up: c.up * (s === 1 ? 0.8 : 1.1) })),
  };
  const apart = Math.abs(outside(t, s === 1 ? 90 : 270, 0.55 * t.h)[0]) + Math.abs(outside(n, s === 1 ? 270 : 90, 0.55 * n.h)[0]) + 0.07;
  return { n, apart };
}

/** mm by which the mesial neighbour stands to lingual and the distal one to facial. */
export const STAGGER = 0.3;

/** Both neighbours, nearly in contact. */
export function neighbours(t: ImplicitTooth): { mesial: Body; distal: Body } {
  const beside = (s: 1 | -1): Body => {
    const { n, apart } = besideOf(t, s);
    const body = uncut(n);
    return (x, y, z) => body(x - s * apart, y + STAGGER * s, z);
  };
  return { mesial: beside(1), distal: beside(-1) };
}

/** Cusp tips of both neighbours. */
export function tipsBeside(t: ImplicitTooth): { mesial: Vec3[]; distal: Vec3[] } {
  const tips = (s: 1 | -1): Vec3[] => {
    const { n, apart } = besideOf(t, s);
    return n.cusps.map((c) => {
      const [x, y, z] = peak(uncut(n), n.h, c.x, c.y);
      return [x + s * apart, y - STAGGER * s, z];
    });
  };
  return { mesial: tips(1), distal: tips(-1) };
}

/** Unit normal of a body's surface, outward. */
export function normalOf(f: Body, p: Vec3): Vec3 {
  const g = gradient(f, p);
  const l = Math.hypot(...g);
  return [g[0] / l, g[1] / l, g[2] / l];
}
