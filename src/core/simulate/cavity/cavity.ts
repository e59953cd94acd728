import { surfaceZ, type ToothShape } from '../../anatomy/shape.ts';
import type { Solid } from '../../anatomy/tessellate.ts';
import { byAxis, toRadians, type Vec3 } from '../../linalg/vec.ts';
import { outward, ringSolid } from '../rings.ts';
import { sideValue } from '../sides.ts';
import type { Typodont } from '../typodont.ts';
import { type Loft, type PlanPoint, withNormals } from './loft.ts';
import type { BoxRecipe, CavityRecipe } from './recipe.ts';

/** The lofts of a recipe, in the construction frame of its tooth. */
export interface CavityParts {
  readonly occlusal: Loft | null;
  readonly boxes: readonly {
    readonly recipe: BoxRecipe;
    readonly loft: Loft;
    readonly floorZ: number;
    readonly axialX: (y: number) => number;
  }[];
  /** What the bevels of the axiopulpal line angles and of the gingival margins take away. */
  readonly bevels: readonly Solid[];
  /** Height of the pulpal floor at the groove's middle. */
  readonly pulpalZ: number;
}

/** Points round each rounded end of an outline. */
const END_POINTS = 26;
/** mm: what a corner is rounded by at least. */
const CORNER = 0.12;

export function cavityParts(t: Typodont, r: CavityRecipe): CavityParts {
  const { target } = t;
  const groove = grooveOf(t);
  const half = target.plan.md / 2;
  const middleX = groove[groove.length >> 1][0];
  const grooveY = (x: number): number => along(groove, x);
  const depth = r.occlusal?.depth ?? 1.6;
  const pulpalZ = surfaceZ(target, middleX, grooveY(middleX)) - depth;
  const has = (side: string) => r.boxes.some((b) => b.side === side);
  const boxes = r.boxes.map((b) => boxOf(t, b, r));
  let occlusal: Loft | null = null;
  if (r.occlusal) {
    const o = r.occlusal;
    // Where there is a box the occlusal part runs on over the axial wall into it.
    const reach = (side: 'mesial' | 'distal'): number => (has(side) ? half * 0.98 : half * o[side]);
    const [x0, x1] = [-reach('distal'), reach('mesial')];
    const cap = Math.min(0.9 * o.isthmus, (x1 - x0) / 2.5);
    const halfWidth = (x: number): number => {
      const end = Math.max(0, 1 - Math.min(x - x0, x1 - x) / (0.45 * (x1 - x0)));
      const w = (o.isthmus / 2) * (1 + o.dovetail * end * end * (3 - 2 * end));
      // Rounded end: an arc that runs out within `cap` of the end, but square into a box.
      const shut = (d: number, open: boolean): number => (open || d >= cap ? 1 : Math.sqrt(Math.max(0, 1 - (1 - d / cap) ** 2.4)));
      return w * shut(x - x0, has('distal')) * shut(x1 - x, has('mesial'));
    };
    const xs: number[] = [];
    for (let i = 0; i <= END_POINTS; i++) xs.push(x0 + ((x1 - x0) * (1 - Math.cos((Math.PI * i) / END_POINTS))) / 2);
    // Counter-clockwise seen from occlusal with facial up: along the lingual side to mesial, back along the facial side.
    const lower = xs.map((x): [number, number] => [x, grooveY(x) - halfWidth(x)]);
    const upper = [...xs].reverse().map((x): [number, number] => [x, grooveY(x) + halfWidth(x)]);
    const ring = evenly(dropTwins([...lower, ...upper]), 200);
    // Square ends run on into a box; their own corners lie in it, and are rounded only so that the fillet has room.
    const points = r.boxes.length ? rounded(ring, CORNER + 3 * r.lineRadius + 0.2) : ring;
    const plan = withNormals(points, (nx, ny) => sideValue(o.walls, Math.atan2(nx, ny)));
    const floor = (x: number, y: number): number => {
      const across = Math.min(1, Math.abs(y - grooveY(x)) / Math.max(0.2, halfWidth(x)));
      return (
        pulpalZ +
        (x - middleX) * Math.tan(toRadians(o.tiltMesial)) +
        (y - grooveY(middleX)) * Math.tan(toRadians(o.tiltFacial)) -
        o.dish * (1 - across * across)
      );
    };
    const [s0, s1] = [x0 + 0.5 * cap, x1 - 0.5 * cap];
    const spine = (x: number): [number, number] => {
      const m = Math.min(s1, Math.max(s0, x));
      return [m, grooveY(m)];
    };
    occlusal = {
      plan,
      floor,
      radius: r.lineRadius,
      top: topOver(target, plan, pulpalZ),
      spine,
      ...(r.chatter ? { chatter: r.chatter } : {}),
    };
  }
  const inner = occlusal;
  const bevels = [
    ...(inner && r.axiopulpal > 0 ? boxes.map((b) => bevelSolid(inner, b, r.axiopulpal)) : []),
    ...boxes.flatMap(gingivalBevel),
    ...boxes.flatMap((b) => facialBevel(t.target, b)),
  ];
  return { occlusal, boxes, bevels, pulpalZ };
}

/** mm by which a bevel's cutter stands over the faces that it joins. */
const BEYOND = 0.3;

/** A bar of triangular section along the line where the pulpal floor meets the axial wall: its long face is the bevel. */
function bevelSolid(occlusal: Loft, b: CavityParts['boxes'][number], width: number): Solid {
  const s = b.recipe.side === 'mesial' ? 1 : -1;
  const leg = width / Math.SQRT2;
  const ys = occlusal.plan.filter((p) => Math.abs(p.x - b.axialX(p.y)) < 0.4).map((p) => p.y);
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const section = (k: number): Vec3[] => {
    const y = y0 + ((y1 - y0) * k) / 12;
    // The axial wall leans on its way up to the pulpal floor.
    const z = occlusal.floor(b.axialX(y), y);
    const x = b.axialX(y) + s * (z - b.floorZ) * Math.tan(toRadians(b.recipe.axial));
    return [
      [x + s * BEYOND, y, z + BEYOND],
      [x - s * (leg + BEYOND), y, z + BEYOND],
      [x + s * BEYOND, y, z - leg - BEYOND],
    ];
  };
  return bar(Array.from({ length: 13 }, (_, k) => section(k)));
}

/** A closed bar through sections of the same number of corners. */
function bar(sections: readonly (readonly Vec3[])[]): Solid {
  const middle = (ring: readonly Vec3[]): Vec3 => byAxis((k) => ring.reduce((sum, p) => sum + p[k], 0) / ring.length);
  return outward(ringSolid(middle(sections[0]), sections, middle(sections[sections.length - 1])));
}

/** mm that the bar of a gingival bevel reaches out of the tooth and over the floor. */
const BAR = { out: 2.5, over: 0.3 };

/** A bar along the gingival margin whose lower face is the bevel. */
function gingivalBevel({ recipe, loft, floorZ, axialX }: CavityParts['boxes'][number]): Solid[] {
  const { bevel } = recipe;
  if (!bevel) return [];
  const s = recipe.side === 'mesial' ? 1 : -1;
  const ys = loft.plan.map((p) => p.y);
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const sections = Array.from({ length: 13 }, (_, k): Vec3[] => {
    const y = y0 + ((y1 - y0) * k) / 12;
    const from = axialX(y) + s * (recipe.axialDepth - bevel.along);
    const out = from + s * BAR.out;
    return [
      [from, y, floorZ],
      [from, y, floorZ + BAR.over],
      [out, y, floorZ + BAR.over],
      [out, y, floorZ - BAR.out * Math.tan(toRadians(bevel.angle))],
    ];
  });
  return [bar(sections)];
}

/** x of the tooth's outer face towards mesial (1) or distal (−1), at y and z. */
function outerFace(tooth: ToothShape, s: 1 | -1, y: number, z: number): number {
  let lo = 0;
  let hi = 9;
  for (let i = 0; i < 40; i++) {
    const m = (lo + hi) / 2;
    if (tooth.inside(s * m, y, z) > 0) lo = m;
    else hi = m;
  }
  return s * lo;
}

/** y of a box's facial wall at a height, and x from which its bevel begins there; the bevel runs on straight over the marginal ridge. */
export function facialBevelAt(tooth: ToothShape, { recipe, loft, floorZ }: CavityParts['boxes'][number]): (z: number) => [number, number] {
  const s = recipe.side === 'mesial' ? 1 : -1;
  const along = recipe.facialBevel?.along ?? 0;
  const foot = Math.max(...loft.plan.map((p) => p.y));
  const wall = (z: number): number => foot - (z - floorZ) * Math.tan(toRadians(recipe.facial));
  let ridge = floorZ;
  while (ridge < loft.top && tooth.inside(s * 0.3 * tooth.plan.md, wall(ridge), ridge) > 0) ridge += 0.05;
  const last = Math.max(floorZ, ridge - 1);
  return (z) => [outerFace(tooth, s, wall(z), Math.min(z, last)) - s * along, wall(z)];
}

/** A bar up a box's facial margin whose facial face is the bevel. */
function facialBevel(tooth: ToothShape, b: CavityParts['boxes'][number]): Solid[] {
  const { facialBevel: bevel } = b.recipe;
  if (!bevel) return [];
  const s = b.recipe.side === 'mesial' ? 1 : -1;
  const at = facialBevelAt(tooth, b);
  const sections = Array.from({ length: 25 }, (_, k): Vec3[] => {
    const z = b.floorZ + ((b.loft.top - b.floorZ) * k) / 24;
    const [from, wall] = at(z);
    const out = from + s * BAR.out;
    return [
      [from, wall, z],
      [from, wall - BAR.over, z],
      [out, wall - BAR.over, z],
      [out, wall + BAR.out * Math.tan(toRadians(bevel.angle)), z],
    ];
  });
  return [bar(sections)];
}

function boxOf(t: Typodont, b: BoxRecipe, { lineRadius, chatter }: CavityRecipe): CavityParts['boxes'][number] {
  const { target } = t;
  const s = b.side === 'mesial' ? 1 : -1;
  const centre = along(grooveOf(t), s * 0.4 * target.plan.md) + (b.toFacial ?? 0);
  const floorZ = t.margin((s * Math.PI) / 2) + b.overGingiva;
  // Asked for again and again at the same places, by cutters and by every truth.
  const known = new Map<number, number>();
  const axialX = (y: number): number => {
    const before = known.get(y);
    if (before !== undefined) return before;
    const x = outerFace(target, s, y, floorZ) - s * b.axialDepth;
    known.set(y, x);
    return x;
  };
  const [y0, y1] = [centre - b.width / 2, centre + b.width / 2];
  const beyond = s * (target.plan.md / 2 + 1.5);
  const axial: [number, number][] = [];
  for (let i = 0; i <= 24; i++) {
    const y = y0 + ((y1 - y0) * i) / 24;
    axial.push([axialX(y), y]);
  }
  // Counter-clockwise: mesial boxes run up the axial wall backwards, distal ones forwards.
  const ring: [number, number][] = s > 0 ? [...axial.reverse(), [beyond, y0], [beyond, y1]] : [...axial, [beyond, y1], [beyond, y0]];
  // Walls that draw together upward want corners that are round enough below not to run into one another above.
  const draw = Math.tan(toRadians(Math.max(0, b.facial, b.lingual, b.axial))) * (target.plan.height - floorZ);
  const points = rounded(evenly(ring, 160), Math.max(2 * lineRadius, CORNER + draw));
  const plan: PlanPoint[] = withNormals(points, (nx, ny) => {
    if (nx * s < -0.7) return b.axial;
    if (nx * s > 0.7) return 0;
    return ny > 0 ? b.facial : b.lingual;
  });
  const top = topOver(target, plan, floorZ);
  return { recipe: b, floorZ, axialX, loft: { plan, floor: () => floorZ, radius: lineRadius, top, ...(chatter ? { chatter } : {}) } };
}

/** mm by which a cutter stands out of the tooth. */
const OUT = 0.3;

/** A height over everything that walls of this plan can meet on their way up: no higher than it must be, lest leaning walls cross. */
function topOver(tooth: ToothShape, plan: readonly PlanPoint[], floor: number): number {
  const rise = tooth.plan.height - floor;
  const highest = plan.map((p) => {
    const lean = rise * Math.tan(toRadians(-p.taper));
    return Math.max(...[0, 0.25, 0.5, 0.75, 1].map((f) => surfaceZ(tooth, p.x + f * lean * p.nx, p.y + f * lean * p.ny)));
  });
  return Math.max(...highest) + OUT;
}

function grooveOf(t: Typodont): readonly (readonly [number, number, number])[] {
  const g = t.target.grooves.find((q) => q.name === 'central');
  if (!g) throw new RangeError(`tooth ${t.target.tooth} has no central groove to cut along`);
  return [...g.line].sort((a, b) => a[0] - b[0]);
}

/** y of a line at x, carried on level beyond its ends. */
function along(line: readonly (readonly [number, number, number])[], x: number): number {
  if (x <= line[0][0]) return line[0][1];
  for (let i = 1; i < line.length; i++)
    if (x <= line[i][0]) {
      const f = (x - line[i - 1][0]) / (line[i][0] - line[i - 1][0] || 1);
      return line[i - 1][1] + f * (line[i][1] - line[i - 1][1]);
    }
  return line[line.length - 1][1];
}

function dropTwins(points: [number, number][]): [number, number][] {
  return points.filter((p, i) => {
    const q = points[(i + points.length - 1) % points.length];
    return Math.hypot(p[0] - q[0], p[1] - q[1]) > 1e-6;
  });
}

/** A closed ring at equal steps of its length. */
function evenly(ring: readonly [number, number][], count: number): [number, number][] {
  const s = [0];
  for (let i = 1; i <= ring.length; i++) {
    const [a, b] = [ring[i - 1], ring[i % ring.length]];
    s.push(s[i - 1] + Math.hypot(b[0] - a[0], b[1] - a[1]));
  }
  const out: [number, number][] = [];
  let i = 0;
  for (let k = 0; k < count; k++) {
    const d = (s[ring.length] * k) / count;
    while (s[i + 1] < d) i++;
    const f = (d - s[i]) / (s[i + 1] - s[i] || 1);
    const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
    out.push([a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1])]);
  }
  return out;
}

/** Rounds a ring's corners by a moving mean over ± radius of its length. */
function rounded(ring: readonly [number, number][], radius: number): [number, number][] {
  const n = ring.length;
  const step = Math.hypot(ring[1][0] - ring[0][0], ring[1][1] - ring[0][1]) || 0.1;
  const half = Math.max(1, Math.round(radius / step));
  return ring.map((_, i) => {
    let x = 0;
    let y = 0;
    for (let j = -half; j <= half; j++) {
      x += ring[(i + j + n) % n][0];
      y += ring[(i + j + n) % n][1];
    }
    return [x / (2 * half + 1), y / (2 * half + 1)];
  });
}
