// Family "implicit", crowns: a superelliptic stump on a ledge, as functions of place.
import type { Vec3 } from '#core/linalg/vec.ts';
import type { ForeignCase, ScanOptions, Truth } from './case.ts';
import { implicitScene } from './implicit.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { gum, IMPLICIT_TEETH, type ImplicitTooth, landmarks, shaft, top, uncut } from './implicit-tooth.ts';
import { foreignMaster, scanOf } from './scanner.ts';

const RAD = Math.PI / 180;
type Sides = Readonly<Record<'facial' | 'mesial' | 'lingual' | 'distal', number>>;

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
const ledgeAt = (c: ImplicitCrown, x: number, y: number): number => c.over - gum(x, y, 0);

/** Half axes of the stump's plan at a height. */
function halfAxes(t: ImplicitTooth, c: ImplicitCrown, x: number, y: number, z: number): [number, number] {
  const axis = (side: keyof Sides, away: Vec3): number => {
    const z0 = ledgeAt(c, away[0], away[1]);
    let [lo, hi] = [0, 9];
    for (let i = 0; i < 40; i++) {
      const m = (lo + hi) / 2;
      if (shaft(t, m * Math.sign(away[0]), m * Math.sign(away[1]), z0) < 0) lo = m;
      else hi = m;
    }
    return lo - c.width[side] - (z - z0) * Math.tan(c.lean[side] * RAD);
  };
  return [
    x > 0 ? axis('mesial', [t.md / 2, 0, 0]) : axis('distal', [-t.md / 2, 0, 0]),
    y > 0 ? axis('facial', [0, t.fl / 2, 0]) : axis('lingual', [0, -t.fl / 2, 0]),
  ];
}

/** The stump's wall; + outside, about mm. */
function wallOf(t: ImplicitTooth, c: ImplicitCrown): Body {
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

function prepared(t: ImplicitTooth, c: ImplicitCrown): Body {
  const [own, wall] = [uncut(t), wallOf(t, c)];
  return (x, y, z) => {
    const stump = roundedBoth(wall(x, y, z), 0.8 * (z - top(t, x, y) + c.down), c.edge);
    return Math.max(own(x, y, z), roundedEither(stump, z - ledgeAt(c, x, y), c.fillet));
  };
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

function truths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
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

const EVEN = (v: number): Sides => ({ facial: v, mesial: v, lingual: v, distal: v });
const CROWNS: readonly (readonly [string, string, ImplicitCrown])[] = [
  ['shoulder', 'molar36', { over: 0.5, width: EVEN(0.9), lean: EVEN(6), down: 1.5, fillet: 0.1, edge: 0.3 }],
  [
    'chamfer, sharp edge',
    'molar17',
    { over: 0.6, width: EVEN(0.5), lean: { facial: 5, mesial: 4, lingual: 7, distal: 4 }, down: 1.2, fillet: 0.4, edge: 0.05 },
  ],
  [
    'deep chamfer, tipped to lingual',
    'premolar25',
    {
      over: 0.4,
      width: { facial: 1, mesial: 0.7, lingual: 0.6, distal: 0.7 },
      lean: { facial: 12, mesial: 5, lingual: 2, distal: 5 },
      down: 1.6,
      fillet: 0.5,
      edge: 0.5,
    },
  ],
  [
    'knife-near, tapered',
    'molar36',
    { over: 0.8, width: EVEN(0.35), lean: { facial: 12, mesial: 9, lingual: 10, distal: 12 }, down: 1.1, fillet: 0.25, edge: 0.6 },
  ],
  [
    'wide shoulder, round edge',
    'molar17',
    {
      over: 0.3,
      width: { facial: 1.3, mesial: 1, lingual: 1.1, distal: 1 },
      lean: { facial: 4, mesial: 3, lingual: 5, distal: 3 },
      down: 2,
      fillet: 0.2,
      edge: 0.8,
    },
  ],
  [
    'uneven',
    'premolar25',
    {
      over: 0.7,
      width: { facial: 1.1, mesial: 0.5, lingual: 0.5, distal: 0.8 },
      lean: { facial: 7, mesial: 3, lingual: 6, distal: 9 },
      down: 1.4,
      fillet: 0.3,
      edge: 0.2,
    },
  ],
];

/** Every crown with usual noise, and once more coarser with noise that neighbouring points share. */
export const IMPLICIT_CROWNS: readonly { readonly name: string; make(): ForeignCase }[] = CROWNS.flatMap(([words, form, crown], i) =>
  [{}, { noise: 0.03, correlation: 3, spacing: 0.2 }].map((more: Partial<ScanOptions>, j) => {
    const name = `implicit ${form} crown, ${words}${j ? ', noise 0.03, coarse' : ''}`;
    return {
      name,
      make: (): ForeignCase => {
        const t = IMPLICIT_TEETH[form];
        const { options, scene } = implicitScene(t, { seed: 950 + 2 * i + j, ...more });
        const master = foreignMaster(`Implicit ${form}`, t.tooth, scene(uncut(t), 0.14), landmarks(t));
        const { scan, pose } = scanOf(t.tooth, scene(prepared(t, crown), options.spacing), options);
        return { family: 'implicit', name, kind: 'crown', master, scan, pose, truths: truths(t, crown), size: 1 };
      },
    };
  }),
);
