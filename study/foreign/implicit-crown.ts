// Family "implicit", crowns: a superelliptic stump on a ledge, as functions of place.
import type { Vec3 } from '#core/linalg/vec.ts';
import { type NamedCase, type Truth, usualAndCoarse } from './case.ts';
import { implicitScene } from './implicit.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { gum, IMPLICIT_TEETH, type ImplicitTooth, landmarks, outside, peak, shaft, tipsBeside, top, uncut } from './implicit-tooth.ts';
import { foreignMaster, scanOf } from './scanner.ts';

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
}

/** Exponent of the stump's plan: not the tooth's own, so that the margin's width changes a little round it. */
const N = 2.6;

/** Height of the ledge over (x, y). */
export const ledgeAt = (c: ImplicitCrown, x: number, y: number): number => c.over - gum(x, y, 0);

const AZIMUTH: Readonly<Record<keyof Sides, number>> = { facial: 0, mesial: 90, lingual: 180, distal: 270 };

/** Half axes of the stump's plan at a height, in the quadrant of (x, y). */
function halfAxes(t: ImplicitTooth, c: ImplicitCrown, x: number, y: number, z: number): [number, number] {
  const axis = (side: keyof Sides): number => {
    const phi = AZIMUTH[side] * RAD;
    const z0 = ledgeAt(c, (Math.sin(phi) * t.md) / 2, (Math.cos(phi) * t.fl) / 2);
    const at = outside(t, AZIMUTH[side], z0);
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
  const wall = wallOf(t, c);
  return (x, y, z) => {
    const stump = roundedBoth(wall(x, y, z), 0.8 * (z - top(t, x, y) + c.down), c.edge);
    return roundedEither(stump, z - ledgeAt(c, x, y), c.fillet);
  };
}

function prepared(t: ImplicitTooth, c: ImplicitCrown): Body {
  const [own, stump] = [uncut(t), stumpOf(t, c)];
  return (x, y, z) => Math.max(own(x, y, z), stump(x, y, z));
}

const mean = (v: readonly number[]): number => v.reduce((s, q) => s + q, 0) / v.length;

/** The gingival margin's middle, each of its sides by its length: where the tooth's frame has its origin. */
function middleOf(points: readonly Vec3[]): Vec3 {
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

/** mm over the ledge between which a wall's lean is taken: it is straight by construction, so any two heights will do. */
const FROM = 0.6;
const TO = 1.8;

/** True values of a whole crown; also those of the sides and sectors that a partial one covers. */
export function crownTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const out: Truth[] = [];
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  for (const side of ['mesial', 'distal']) say(`neighbour.${side}`, null, 'max', 0);
  const o = middleOf(landmarks(t).gingivalMargin);
  const wall = wallOf(t, c);
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
    const [finish, foot, neck] = [on(side), on(wall), on(side, 0)];
    const [low, high] = [finish.z + FROM, finish.z + TO];
    return {
      phi,
      width: finish.r - foot.r,
      height: finish.z - neck.z,
      lean: Math.atan2(reach(wall, phi, low) - reach(wall, phi, high), high - low) / RAD,
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
    stats(
      'margin.width',
      own.map((p) => p.width),
      ['min', 'p05', 'median', 'p95'],
    );
    stats(
      'wall.lean',
      own.map((p) => p.lean),
      ['median'],
    );
    stats(
      'margin.gingiva',
      own.map((p) => p.height),
      ['min', 'median', 'p95'],
    );
  }
  say('margin.lip', null, 'max', 0);
  const pairs = (at: number): number => mean(within(at, 30).map((p) => p.lean + places[(p.phi / 2 + 90) % 180].lean));
  say('toc.faciolingual', null, 'mean', pairs(0));
  say('toc.mesiodistal', null, 'mean', pairs(90));
  if (Math.min(...places.map((p) => p.lean)) > 1) say('undercut.depth', null, 'max', 0);
  return out;
}

/** mm under the highest place of a cut cusp down to which its tip is. */
const PLATEAU = 0.05;

/** Signed distance (+ facial) of each cut functional cusp from the line through the neighbours' tips of its row. */
function rowTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const functional = t.cusps.filter((q) => q.role === 'functional');
  const facial = functional[0].y > 0;
  const { mesial, distal } = tipsBeside(t);
  const row = [...mesial, ...distal].filter((p) => p[1] > 0 === facial);
  const [mx, my] = [0, 1].map((k) => mean(row.map((p) => p[k])));
  const b = row.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / row.reduce((s, p) => s + (p[0] - mx) ** 2, 0);
  const stump = stumpOf(t, c);
  return functional.map(({ name, x, y }): Truth => {
    const [px, py, pz] = peak(stump, t.h - c.down, x, y);
    const cap: number[] = [];
    for (let u = -1.2; u <= 1.2; u += 0.04)
      for (let v = -1.2; v <= 1.2; v += 0.04)
        if (stump(px + u, py + v, pz - PLATEAU) < 0) cap.push((py + v - my - b * (px + u - mx)) / Math.hypot(1, b));
    return { name: 'line.cusps', zone: name, stat: 'value', value: mean(cap) };
  });
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
const CROWNS: readonly (readonly [string, string, ImplicitCrown])[] = [
  ['shoulder', 'molar36', crown(0.5, sides(0.9), sides(6), 1.5, 0.1, 0.3)],
  ['chamfer, sharp edge', 'molar17', crown(0.6, sides(0.5), sides(5, 4, 7), 1.2, 0.4, 0.05)],
  ['deep chamfer, tipped to lingual', 'premolar25', crown(0.4, sides(1, 0.7, 0.6), sides(12, 5, 2), 1.6, 0.5, 0.5)],
  ['knife-near, tapered', 'molar36', crown(0.8, sides(0.35), sides(12, 9, 10, 12), 1.1, 0.25, 0.6)],
  ['wide shoulder, round edge', 'molar17', crown(0.3, sides(1.3, 1, 1.1), sides(4, 3, 5), 2, 0.2, 0.8)],
  ['uneven', 'premolar25', crown(0.7, sides(1.1, 0.5, 0.5, 0.8), sides(7, 3, 6, 9), 1.4, 0.3, 0.2)],
];

/** Every crown with usual noise, and once more coarser with noise that neighbouring points share. */
export const IMPLICIT_CROWNS: readonly NamedCase[] = CROWNS.flatMap(([words, form, cut], i) =>
  usualAndCoarse(`${form} crown, ${words}`, 950 + 2 * i, 0.2, (more) => {
    const t = IMPLICIT_TEETH[form];
    const { options, scene } = implicitScene(t, more);
    const marks = { ...landmarks(t), neighbourCusps: tipsBeside(t) };
    const master = foreignMaster(`Implicit ${form}`, t.tooth, scene(uncut(t), 0.14), marks);
    const { scan, pose } = scanOf(t.tooth, scene(prepared(t, cut), options.spacing), options);
    return { family: 'implicit', kind: 'crown', master, scan, pose, truths: [...crownTruths(t, cut), ...rowTruths(t, cut)], size: 1 };
  }),
);
