import { cross, dot, type Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { axialFormTruth, cuspPlaneTruth, gapTruths, instrumentTruths } from './implicit-box-truths.ts';
import { bevelTruth, dentineTruth, flareTruth, lesionTruth, underminedTruth } from './implicit-inner-truths.ts';
import { type Body, gradient } from './implicit-mesh.ts';
import { cornersTruth, coverageTruth } from './implicit-plan-truths.ts';
import { type ImplicitTooth, landmarks, normalOf, over, shaft, uncut } from './implicit-tooth.ts';
import { stepTruth } from './step-truth.ts';

/** A cavity: a slot along the tooth's middle, and boxes; lengths at the level of the floors, leans + converging occlusally. */
export interface Cut {
  /** From the middle to the distal and to the mesial end, where no box stands. */
  readonly half: readonly [number, number];
  readonly width: number;
  readonly floor: number;
  /** Degrees by which the floor rises to facial. */
  readonly tilt: number;
  /** mm by which the floor's middle lies deeper. */
  readonly dish: number;
  readonly lean: { readonly facial: number; readonly mesial: number; readonly lingual: number; readonly distal: number };
  /** Radius between floor and walls, and between two walls. */
  readonly fillet: number;
  readonly line: number;
  readonly boxes: readonly {
    readonly side: 'mesial' | 'distal';
    /** From the middle to the axial wall's foot. */
    readonly axial: number;
    readonly y: number;
    readonly width: number;
    readonly floor: number;
    readonly lean: { readonly facial: number; readonly lingual: number; readonly axial: number };
    /** A bevel of the gingival margin: mm from the axial wall's foot at which it begins, degrees under the level. */
    readonly bevel?: { readonly from: number; readonly angle: number };
    /** A bevel of the facial margin: mm from the axial wall's foot at which it begins, degrees by which it turns off the facial wall. */
    readonly flare?: { readonly from: number; readonly angle: number };
  }[];
  readonly axiopulpal: number;
  /** Waves that a chattering cutter left on all walls: half their height, and mm from one to the next up the wall. */
  readonly chatter?: { readonly height: number; readonly length: number };
  /** Decay: a ball on one side of the tooth. */
  readonly lesion?: { readonly x: number; readonly z: number; readonly radius: number };
}

export type Say = (name: string, zone: string | null, stat: string, value: number) => void;

export function implicitTruths(t: ImplicitTooth, c: Cut, taken: Body): Truth[] {
  const out: Truth[] = [];
  const say: Say = (name, zone, stat, value) => void out.push({ name, zone, stat, value });
  for (const side of ['mesial', 'distal']) say(`neighbour.${side}`, null, 'max', 0);
  for (const side of ['facial', 'lingual', 'mesial', 'distal'] as const)
    if (!c.boxes.some((b) => b.side === side)) say('wall.angle', side, 'mean', c.lean[side]);
  if (c.dish === 0) say('floor.pulpal.tilt', null, 'value', Math.abs(c.tilt));
  floorDepths(t, c, say);
  isthmus(t, c, taken, say);
  const edge = outline(t, taken);
  for (const cusp of landmarks(t).cusps)
    say('outline.cusp', cusp.name, 'min', Math.min(...edge.map((p) => Math.hypot(p[0] - cusp.at[0], p[1] - cusp.at[1]))));
  for (const [side, s] of [
    ['mesial', 1],
    ['distal', -1],
  ] as const)
    if (!c.boxes.some((b) => b.side === side))
      say(`outline.ridge.${side}`, null, 'min', Math.min(...edge.map((p) => face(t, s, p[1]) - s * p[0])));
  const angles = edge.map((p) => exitAngle(uncut(t), taken, p)).sort((a, b) => a - b);
  for (const [stat, q] of [
    ['p05', 0.05],
    ['median', 0.5],
    ['p95', 0.95],
  ] as const)
    say('cavosurface', null, stat, angles[Math.floor(q * angles.length)]);
  cuspPlaneTruth(t, c, say);
  dentineTruth(t, c, say);
  underminedTruth(t, taken, edge, say);
  coverageTruth(t, taken, say);
  cornersTruth(t, c, taken, say);
  for (const b of c.boxes) {
    boxTruths(t, c, b, say);
    lesionTruth(c, b, say);
    bevelTruth(t, b, say);
    flareTruth(t, b, c.floor, say);
    axialFormTruth(t, c, b, say);
    stepTruth(
      b,
      taken,
      (x, y) => over(t, x, y),
      (x, s) => marginAt(t, taken, x, s),
      say,
    );
    // A bevel carries the margin under the floor: gaps and instruments are told of plain boxes.
    if (b.bevel) continue;
    gapTruths(t, b, taken, edge, say);
    // Which part of a flared floor an instrument should reach is a matter of taste.
    if (!b.flare) instrumentTruths(t, b, taken, say);
  }
  return out;
}

export function boxTruths(t: ImplicitTooth, c: Cut, b: Cut['boxes'][number], say: Say): void {
  const s = b.side === 'mesial' ? 1 : -1;
  const zone = `box ${b.side}`;
  say('wall.angle', `${zone} facial`, 'mean', b.lean.facial);
  say('wall.angle', `${zone} lingual`, 'mean', b.lean.lingual);
  say('wall.angle', `axial ${b.side}`, 'mean', b.lean.axial);
  say('divergence', zone, 'value', -(b.lean.facial + b.lean.lingual));
  say('floor.gingival.tilt', `${b.side} floor`, 'value', 0);
  say('box.width', `${zone} floor`, 'value', b.width);
  if (c.tilt === 0 && c.dish === 0) say('box.height', zone, 'value', c.floor - b.floor);
  // The axial wall is a plane across the arch, and both side walls run along it.
  for (const side of ['facial', 'lingual']) say('box.corners', `${zone} ${side}`, 'value', 90);
  const [facial, lingual] = [b.lean.facial, b.lean.lingual].map((a) => Math.tan((a * Math.PI) / 180));
  say('box.parallel', `${zone} path`, 'value', (Math.atan(Math.abs(lingual - facial) / 2) * 180) / Math.PI);
  if (c.axiopulpal > 0) say('axiopulpal.radius', zone, 'value', c.axiopulpal);
  if (b.bevel) return;
  const [y0, y1] = [b.y - b.width / 2, b.y + b.width / 2];
  for (const [i, third] of ['lingual third', 'middle third', 'facial third'].entries()) {
    const places = Array.from({ length: 50 }, (_, k) => y0 + ((y1 - y0) * (i + (k + 0.5) / 50)) / 3);
    say('box.axialdepth', `${zone} ${third}`, 'value', places.reduce((sum, y) => sum + level(t, s, y, b.floor) - b.axial, 0) / 50);
  }
}

/** Roughness of the walls on a scan whose points have each a noise of their own: waves and noise together. */
export function roughTruths(c: Cut, noise: number): Truth[] {
  const value = Math.hypot(noise, (c.chatter?.height ?? 0) / Math.SQRT2);
  return [null, ...c.boxes.map((b) => `box ${b.side}`)].map((zone) => ({ name: 'wall.rough', zone, stat: 'median', value }));
}

/** Distance from the middle to the tooth's side at y and z, towards mesial (1) or distal (−1). */
export function level(t: ImplicitTooth, s: 1 | -1, y: number, z: number): number {
  let [lo, hi] = [0, 9];
  for (let i = 0; i < 50; i++) {
    const m = (lo + hi) / 2;
    if (shaft(t, s * m, y, z) < 0) lo = m;
    else hi = m;
  }
  return lo;
}

/** The outermost place of the tooth's mesial or distal face at y, over all heights. */
const face = (t: ImplicitTooth, s: 1 | -1, y: number): number =>
  Math.max(...Array.from({ length: 40 }, (_, k) => level(t, s, y, (t.h * k) / 40)));

/** Places of the pulpal floor, 0.05 mm apart, off the roundings into its walls. */
export function floorPlaces(c: Cut): Vec3[] {
  const end = (side: 'mesial' | 'distal', own: number): number => {
    const b = c.boxes.find((q) => q.side === side);
    return b ? b.axial - Math.max(0.1, c.axiopulpal) : own - c.fillet;
  };
  const [x0, x1] = [-end('distal', c.half[0]), end('mesial', c.half[1])];
  const w = c.width / 2 - c.fillet;
  const out: Vec3[] = [];
  for (let x = x0; x <= x1; x += 0.05)
    for (let y = -w; y <= w; y += 0.05) {
      const dish = c.dish * Math.max(0, 1 - (x / 3) ** 2) * Math.max(0, 1 - (y / (0.5 * c.width)) ** 2);
      out.push([x, y, c.floor + Math.tan((c.tilt * Math.PI) / 180) * y - dish]);
    }
  return out;
}

export function floorDepths(t: ImplicitTooth, c: Cut, say: Say): void {
  const depths = floorPlaces(c).map(([x, y, z]) => over(t, x, y) - z);
  depths.sort((a, b) => a - b);
  for (const [stat, q] of [
    ['p05', 0.05],
    ['median', 0.5],
    ['p95', 0.95],
  ] as const)
    say('depth.pulpal', null, stat, depths[Math.floor(q * depths.length)]);
}

/** How far from the groove (y = 0) the occlusal margin lies at x, to facial (1) or lingual (-1). */
function marginAt(t: ImplicitTooth, taken: Body, x: number, s: 1 | -1): number {
  let [lo, hi] = [0, 4.5];
  for (let i = 0; i < 50; i++) {
    const m = (lo + hi) / 2;
    if (taken(x, s * m, over(t, x, s * m)) < 0) lo = m;
    else hi = m;
  }
  return lo;
}

/** Width between both margins across the groove, away from rounded ends and boxes. */
function isthmus(t: ImplicitTooth, c: Cut, taken: Body, say: Say): void {
  const margin = (x: number, s: 1 | -1): number => marginAt(t, taken, x, s);
  const widths: number[] = [];
  const end = (side: 'mesial' | 'distal', own: number): number => {
    const b = c.boxes.find((q) => q.side === side);
    return b ? b.axial - 0.25 : own - 0.7 * c.width;
  };
  for (let x = -end('distal', c.half[0]); x <= end('mesial', c.half[1]); x += 0.05) widths.push(margin(x, 1) + margin(x, -1));
  say('outline.isthmus', null, 'min', Math.min(...widths));
  const closed = (['mesial', 'distal'] as const).filter((side) => !c.boxes.some((b) => b.side === side));
  const ends = closed.flatMap((side) => {
    const to = c.half[side === 'mesial' ? 1 : 0];
    const s = side === 'mesial' ? 1 : -1;
    return Array.from({ length: Math.floor(to / 0.05) }, (_, k) => margin(s * 0.05 * k, 1) + margin(s * 0.05 * k, -1));
  });
  if (ends.length) say('outline.dovetail', null, 'value', Math.max(...ends) / Math.min(...widths));
}

/** Places of the cavosurface outline, about 0.05 mm apart: where both functions are 0, by Newton steps from places near. */
function outline(t: ImplicitTooth, taken: Body): Vec3[] {
  const body = uncut(t);
  const cells = new Map<string, Vec3>();
  const seed = (from: Vec3): void => {
    let p = from;
    for (let step = 0; step < 8; step++) {
      const [f, g] = [body(...p), taken(...p)];
      if (Math.abs(f) < 1e-6 && Math.abs(g) < 1e-6) {
        const key = p.map((v) => Math.round(v / 0.05)).join();
        if (!cells.has(key)) cells.set(key, p);
        return;
      }
      const [df, dg] = [gradient(body, p), gradient(taken, p)];
      const [ff, fg, gg] = [dot(df, df), dot(df, dg), dot(dg, dg)];
      const det = ff * gg - fg * fg;
      if (det < 1e-6) return;
      const [a, b] = [(gg * f - fg * g) / det, (ff * g - fg * f) / det];
      p = [p[0] - a * df[0] - b * dg[0], p[1] - a * df[1] - b * dg[1], p[2] - a * df[2] - b * dg[2]];
      if (Math.hypot(p[0] - from[0], p[1] - from[1], p[2] - from[2]) > 0.4) return;
    }
  };
  const s = 0.07;
  for (let x = -7; x <= 7; x += s)
    for (let y = -5; y <= 5; y += s)
      for (let z = 0.8; z <= t.h + 0.6; z += s) if (Math.abs(body(x, y, z)) < 0.08 && Math.abs(taken(x, y, z)) < 0.08) seed([x, y, z]);
  return [...cells.values()];
}

/** Angle between the cavity's wall and the uncut surface, across the outline. */
function exitAngle(body: Body, taken: Body, p: Vec3): number {
  const [n, m] = [normalOf(body, p), normalOf(taken, p)];
  const along = cross(n, m);
  const turned = (v: Vec3, sign: number): Vec3 => (sign < 0 ? [-v[0], -v[1], -v[2]] : v);
  const wall = cross(m, along);
  const way = turned(wall, -Math.sign(dot(wall, n)));
  const surface = cross(n, along);
  const away = turned(surface, Math.sign(dot(surface, m)));
  const l = Math.hypot(...way) * Math.hypot(...away);
  return (Math.acos(Math.max(-1, Math.min(1, dot(way, away) / l))) * 180) / Math.PI;
}
