// Family "swept": teeth of stacked polygons, cut by the hulls of a cutter on its way, as a hand leads it.
import type { Vec3 } from '#core/linalg/vec.ts';
import { type Arch, type Solid, seen, solids } from './bodies.ts';
import { type ForeignCase, SCAN, type ScanOptions, type Truth } from './case.ts';
import { foreignMaster, scanOf } from './scanner.ts';

const RAD = Math.PI / 180;
const SIDES = [
  ['facial', 0],
  ['mesial', 90],
  ['lingual', 180],
  ['distal', 270],
] as const;

/** Rounded rectangles, one over the other: half length and half width at each height. */
const STACK = [
  { z: -5, a: 3.9, b: 3.6 },
  { z: 0, a: 4.5, b: 4.2 },
  { z: 2.6, a: 5.1, b: 4.8 },
  { z: 4.6, a: 4.9, b: 4.5 },
  { z: 5.6, a: 4.2, b: 3.7 },
] as const;

function ring(a: number, b: number, z: number, grow = 0): Vec3[] {
  return Array.from({ length: 96 }, (_, k): Vec3 => {
    const phi = (2 * Math.PI * k) / 96;
    const [s, c] = [Math.sin(phi), Math.cos(phi)];
    const n = 3.2;
    const r = (Math.abs(s / (a * (1 + 0.03 * s))) ** n + Math.abs(c / (b * (1 + 0.04 * c))) ** n) ** (-1 / n) + grow;
    return [r * s, r * c, z];
  });
}

const CUSPS = [
  { name: 'MB', x: 2.1, y: 2, up: 1.3 },
  { name: 'DB', x: -2.2, y: 2.1, up: 1.1 },
  { name: 'ML', x: 2, y: -2.2, up: 1.5 },
  { name: 'DL', x: -2.1, y: -2.1, up: 1.2 },
] as const;

function tooth(size = 1): Solid {
  const slabs = STACK.slice(1).map((top, i) =>
    solids.hull([...ring(STACK[i].a * size, STACK[i].b * size, STACK[i].z), ...ring(top.a * size, top.b * size, top.z)] as never),
  );
  const cones = CUSPS.map((c) =>
    solids.hull([
      ...Array.from(
        { length: 32 },
        (_, k): Vec3 => [c.x + 1.9 * Math.cos((k * Math.PI) / 16), c.y + 1.7 * Math.sin((k * Math.PI) / 16), 5.59],
      ),
      [c.x, c.y, 5.6 + c.up],
    ] as never),
  );
  return solids.union([...slabs, ...cones.map((c) => (size === 1 ? c : c.scale([size, size, 1])))]);
}

export interface SweptCrown {
  readonly width: number;
  /** Degrees of half taper of the cutter, held upright. */
  readonly taper: number;
  /** How much the cutter leans: the stump leans with it. */
  readonly lean: { readonly facial: number; readonly mesial: number };
  readonly end: 'flat' | 'round';
  /** Height of the finish line over the gum. */
  readonly over: number;
  /** mm taken from the top. */
  readonly down: number;
  readonly nick: null | { readonly depth: number; readonly across: number };
}

/** Half taper that the wall has at an azimuth with the cutter held at its lean. */
const wallLean = (c: SweptCrown, phi: number): number =>
  c.taper + c.lean.facial * Math.cos(phi * RAD) + c.lean.mesial * Math.sin(phi * RAD);

/** Half length and half width of the uncut tooth at a height between two of its slabs' ends. */
function sizeAt(z: number): { a: number; b: number } {
  const i = STACK.findIndex((s) => s.z > z);
  const [low, high] = [STACK[i - 1], STACK[i]];
  const f = (z - low.z) / (high.z - low.z);
  return { a: low.a + f * (high.a - low.a), b: low.b + f * (high.b - low.b) };
}

/** Where the wall's foot is: the uncut side, the width further in. */
function footOf(c: SweptCrown): Vec3[] {
  const { a, b } = sizeAt(c.over);
  return ring(a, b, c.over).map(([x, y]): Vec3 => {
    const l = Math.hypot(x, y);
    return [(x / l) * (l - c.width), (y / l) * (l - c.width), c.over];
  });
}

/** Outward direction of the foot at one of its places. */
function outAt(foot: readonly Vec3[], k: number): [number, number] {
  const n = foot.length;
  const [p, q, r] = [foot[k], foot[(k + 1) % n], foot[(k + n - 1) % n]];
  const t = Math.hypot(q[0] - r[0], q[1] - r[1]);
  const out = [-(q[1] - r[1]) / t, (q[0] - r[0]) / t];
  const sign = out[0] * p[0] + out[1] * p[1] > 0 ? 1 : -1;
  return [out[0] * sign, out[1] * sign];
}

function cut(body: Solid, c: SweptCrown): Solid {
  // A round end no wider than its margin would leave a lip at the edge.
  const radius = c.end === 'round' ? 1.1 * c.width + 0.05 : Math.max(0.55, 0.62 * c.width + 0.15);
  const foot = footOf(c);
  const edge = sizeAt(c.over);
  const n = foot.length;
  /** The cutter with its side on the wall at one place: a cone frustum, its end flat or a half ball. */
  const cutter = (k: number): Vec3[] => {
    const p = foot[k];
    const [ox, oy] = outAt(foot, k);
    const phi = Math.atan2(ox, oy) / RAD;
    const tan = Math.tan(wallLean(c, phi) * RAD);
    const points: Vec3[] = [];
    const levels = c.end === 'flat' ? [0, 9] : [0, 0.08, 0.2, 0.4, 0.65, 1, 9 / radius];
    for (const level of levels) {
      const z = c.end === 'flat' ? level : level * radius;
      const bulge = c.end === 'flat' || level >= 1 ? 1 : Math.sqrt(1 - (1 - level) ** 2);
      const middle = radius - tan * z;
      for (let i = 0; i < 20; i++) {
        const a = (2 * Math.PI * i) / 20 + Math.atan2(oy, ox) + Math.PI;
        points.push([p[0] + ox * middle + radius * bulge * Math.cos(a), p[1] + oy * middle + radius * bulge * Math.sin(a), c.over + z]);
      }
    }
    return points;
  };
  const swept = Array.from({ length: n }, (_, k) => solids.hull([...cutter(k), ...cutter((k + 1) % n)] as never));
  const beyond = solids
    .cube([40, 40, 20], true)
    .translate([0, 0, c.over + 10])
    .subtract(
      solids.hull([
        ...ring(edge.a, edge.b, c.over - 0.01, 1.2 * radius - c.width),
        ...ring(edge.a, edge.b, 20, 1.2 * radius - c.width),
      ] as never),
    );
  return body
    .subtract(solids.union(swept))
    .subtract(beyond)
    .subtract(solids.cube([40, 40, 10], true).translate([0, 0, 5.6 + 1.1 - c.down + 5]));
}

export function sweptCrown(name: string, c: SweptCrown, options: Partial<ScanOptions> = {}): ForeignCase {
  const o = { ...SCAN, ...options };
  const code = '46';
  const target = tooth();
  const mesial = tooth(0.92).translate([9.87, 0.2, -0.1]);
  const distal = tooth(1.05).translate([-10.45, -0.2, 0.1]);
  const gum = solids
    .cube([34, 16, 5], true)
    .translate([0, 0, -2.5])
    .subtract(target.translate([0, 0, 0]));
  const arch: Arch = { target, mesial, distal, gum };
  const at = (x: number, y: number, z: number): Vec3 => [x, y, z];
  const master = foreignMaster('Swept', code, seen(arch, 0.16, -1, 14), {
    cusps: CUSPS.map((q) => ({
      name: q.name,
      role: q.y > 0 ? ('functional' as const) : ('non-functional' as const),
      at: at(q.x, q.y, 5.6 + q.up),
    })),
    groove: [-2.4, -1.2, 0, 1.2, 2.4].map((x) => at(x, 0, 5.6)),
    mesialRidge: [-1, 0, 1].map((y) => at(3.9, y, 5.6)),
    distalRidge: [-1, 0, 1].map((y) => at(-3.9, y, 5.6)),
    mesialContact: at(5.2, 0, 2.6),
    distalContact: at(-5, 0, 2.6),
    gingivalMargin: ring(4.5, 4.2, 0),
  });
  const nicked = c.nick
    ? mesial.subtract(solids.sphere(radiusOf(c.nick), 64).translate([9.87 - 5.1 * 0.92 * 0.97 - radiusOf(c.nick) + c.nick.depth, 0.2, 2.5]))
    : mesial;
  const scene = seen({ target: cut(target, c), mesial: nicked, distal, gum }, o.spacing, -0.9, 13.5);
  const { scan, pose } = scanOf(code, scene, o);
  return { family: 'swept', name, kind: 'crown', master, scan, pose, size: o.scale, truths: () => truthsOf(c) };
}

/** Ball that leaves a cap of that depth and width in a plane. */
const radiusOf = (n: { depth: number; across: number }): number => (n.across ** 2 / 4 + n.depth ** 2) / (2 * n.depth);

function truthsOf(c: SweptCrown): Truth[] {
  const out: Truth[] = [];
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  for (const zone of [null, ...SIDES.map(([z]) => z)])
    for (const stat of ['p05', 'median', 'p95']) say('margin.width', zone, stat, c.width);
  for (const stat of ['min', 'median', 'p95']) say('margin.gingiva', null, stat, c.over);
  // In the half plane of an azimuth a wall that faces another way leans more than square to itself.
  const foot = footOf(c);
  const leans = foot.map((p, k) => {
    const [ox, oy] = outAt(foot, k);
    const across = (ox * p[0] + oy * p[1]) / Math.hypot(p[0], p[1]);
    return {
      phi: (Math.atan2(p[0], p[1]) / RAD + 360) % 360,
      lean: Math.atan(Math.tan(wallLean(c, Math.atan2(ox, oy) / RAD) * RAD) / across) / RAD,
    };
  });
  const near = (at: number, half: number): number[] =>
    leans.flatMap((q) => (Math.abs(((q.phi - at + 540) % 360) - 180) <= half ? [q.lean] : []));
  const mean = (v: readonly number[]): number => v.reduce((s, q) => s + q, 0) / v.length;
  for (const [zone, at] of SIDES) say('wall.lean', zone, 'median', near(at, 45).sort((a, b) => a - b)[near(at, 45).length >> 1]);
  say('draw.tilt', null, 'value', Math.hypot(c.lean.facial, c.lean.mesial));
  say('toc.faciolingual', null, 'mean', mean(near(0, 30)) + mean(near(180, 30)));
  say('toc.mesiodistal', null, 'mean', mean(near(90, 30)) + mean(near(270, 30)));
  say('margin.lip', null, 'max', 0);
  say('undercut.depth', null, 'max', 0);
  say('neighbour.distal', null, 'max', 0);
  if (!c.nick) say('neighbour.mesial', null, 'max', 0);
  return out;
}

const PLAIN: SweptCrown = { width: 0.9, taper: 6, lean: { facial: 0, mesial: 0 }, end: 'flat', over: 0.6, down: 1.9, nick: null };

export const SWEPT_CASES: readonly { readonly name: string; make(): ForeignCase }[] = (
  [
    ['flat end', {}, {}],
    ['flat end, narrow', { width: 0.5, taper: 4 }, {}],
    ['round end', { end: 'round', width: 0.7 }, {}],
    ['round end, wide', { end: 'round', width: 1.1, taper: 8 }, {}],
    ['leaning 3° facially', { lean: { facial: 3, mesial: 0 }, taper: 7 }, {}],
    ['leaning 4° mesially', { lean: { facial: 0, mesial: 4 }, taper: 8, end: 'round', width: 0.8 }, {}],
    ['flat end, coarse', {}, { spacing: 0.26, noise: 0.03 }],
    ['round end, correlated', { end: 'round', width: 0.7 }, { noise: 0.025, correlation: 4 }],
    ['round end, blunted', { end: 'round', width: 0.7 }, { blunt: 2, noise: 0.01 }],
    ['low taper', { taper: 2, width: 0.8 }, {}],
  ] as const
).map(([what, own, options], i) => {
  const name = `swept ${what}`;
  return { name, make: () => sweptCrown(name, { ...PLAIN, ...own } as SweptCrown, { seed: 900 + i, ...options }) };
});
