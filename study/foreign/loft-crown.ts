import type { Truth } from './case.ts';
import { SIDES } from './depth-zones.ts';
import { length, rounded } from './loft-mesh.ts';
import { cej, gingiva, type P, RAD, rimZ, side, type Tooth, tipsBeside } from './loft-tooth.ts';

export interface LoftCrown {
  readonly width: (phi: number) => number;
  /** Degrees to the long axis, + converging. */
  readonly lean: (phi: number) => number;
  /** Height of the finish line over the gingival margin; below 0 tooth and gum form a trench. */
  readonly over: (phi: number) => number;
  readonly floor: 'shoulder' | 'chamfer';
  /** Radius between floor and wall of a shoulder. */
  readonly fillet: number;
  /** How much lower than the uncut rim the wall ends, along the axis. */
  readonly down: number;
  /** Radius of the edges between wall, bevel and occlusal surface. */
  readonly edge: number;
  /** Bevel on the functional side: degrees to the axis and width along it. */
  readonly bevel: null | { readonly angle: number; readonly width: number };
  /** How far out of the old tooth the crest of a trench's gum stands; negative: it leans in over the floor. */
  readonly gum: number;
  /** Height of a lip left by a cutter sunk too deep. */
  readonly lip: (phi: number) => number;
  readonly nick: null | { readonly side: 'mesial' | 'distal'; readonly depth: number; readonly across: number };
}

export const LOFT_CROWN: LoftCrown = {
  width: () => 0.8,
  lean: () => 6,
  over: () => 0.5,
  floor: 'shoulder',
  fillet: 0.1,
  down: 1.4,
  edge: 0.3,
  bevel: null,
  gum: 0.1,
  lip: () => 0,
  nick: null,
};

export const mostLip = (c: LoftCrown): number => Math.max(...Array.from({ length: 72 }, (_, k) => c.lip(5 * k)));

const functionalSide = (t: Tooth, phi: number): number => {
  const own = t.cusps.filter((c) => c.role === 'functional');
  return Math.max(0, ...own.map((c) => (Math.abs(((((phi - c.azimuth) % 360) + 540) % 360) - 180) < 24 ? 1 : 0)));
};

/** Corners of the cut profile from the gum inward to the axis: finish line, foot, top of the wall, end of the bevel, middle. */
export function cutCorners(t: Tooth, c: LoftCrown, phi: number): { line: P[]; radii: number[]; finish: P; foot: P; top: P } {
  const zf = gingiva(phi) + c.over(phi);
  const finish: P = [side(t, phi, zf), zf];
  const w = c.width(phi);
  const foot: P = [finish[0] - w, zf];
  const rise = rimZ(t, phi) - c.down - zf;
  const tan = Math.tan(c.lean(phi) * RAD);
  // Every azimuth has the same corners; where there is no bevel or lip they lie on a straight line.
  const bevel = c.bevel && (functionalSide(t, phi) > 0 ? c.bevel : { angle: c.lean(phi), width: c.bevel.width });
  const high = bevel ? rise - bevel.width * Math.cos(bevel.angle * RAD) : rise;
  const top: P = [foot[0] - tan * high, zf + high];
  const line: P[] = [finish];
  const radii: number[] = [0];
  const lip = c.lip(phi);
  if (mostLip(c) > 0) {
    // A trough: down from the edge over a fifth of the width, level, and into the wall.
    line.push([finish[0] - 0.25 * w, zf - lip], [finish[0] - 0.75 * w, zf - lip]);
    radii.push(0.15, 0.15);
  }
  line.push(foot, top);
  // A chamfer's arc meets the floor's outer edge: its radius is what the corner's angle makes of the width.
  radii.push(c.floor === 'chamfer' ? w * Math.tan(((90 + c.lean(phi)) / 2) * RAD) * 0.999 : c.fillet, c.edge);
  let inner = top;
  if (bevel) {
    inner = [top[0] - bevel.width * Math.sin(bevel.angle * RAD), top[1] + bevel.width * Math.cos(bevel.angle * RAD)];
    line.push(inner);
    radii.push(c.edge);
  }
  line.push([0, t.h - 2.1 - c.down]);
  radii.push(0);
  return { line, radii, finish, foot, top };
}

const COLUMNS = 360;

export const quantile = (v: readonly number[], q: number): number => {
  const s = [...v].sort((a, b) => a - b);
  const i = q * (s.length - 1);
  return s[Math.floor(i)] + (i - Math.floor(i)) * (s[Math.min(s.length - 1, Math.floor(i) + 1)] - s[Math.floor(i)]);
};

const SECTORS = Object.entries(SIDES);

export function crownTruths(t: Tooth, c: LoftCrown): Truth[] {
  const out: Truth[] = [];
  const all = Array.from({ length: COLUMNS }, (_, k) => (360 * k) / COLUMNS);
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  // Balanced direction of insertion: lean of each side against its opposite, by least squares over the azimuths.
  let tx = 0;
  let ty = 0;
  for (const phi of all) {
    const half = (Math.tan(c.lean(phi + 180) * RAD) - Math.tan(c.lean(phi) * RAD)) / 2;
    tx += (2 / all.length) * half * Math.sin(phi * RAD);
    ty += (2 / all.length) * half * Math.cos(phi * RAD);
  }
  const undercut = Math.min(...all.map((phi) => c.lean(phi) + Math.atan(tx * Math.sin(phi * RAD) + ty * Math.cos(phi * RAD)) / RAD)) < 0;
  const taper = (phi: number): number => c.lean(phi) + Math.atan(tx * Math.sin(phi * RAD) + ty * Math.cos(phi * RAD)) / RAD;
  if (!undercut) {
    say('draw.tilt', null, 'value', Math.atan(Math.hypot(tx, ty)) / RAD);
    say(
      'toc.faciolingual',
      null,
      'mean',
      mean(all.filter((p) => Math.abs(((p + 180) % 360) - 180) <= 30).map((p) => taper(p) + taper(p + 180))),
    );
    say('toc.mesiodistal', null, 'mean', mean(all.filter((p) => Math.abs(p - 90) <= 30).map((p) => taper(p) + taper(p + 180))));
    for (const [zone, at] of SECTORS) say('taper.wall', zone, 'median', quantile(within(all, at).map(taper), 0.5));
  }
  const spread = (v: readonly number[]): number => quantile(v, 0.95) - quantile(v, 0.05);
  if (!undercut) say('taper.even', null, 'value', spread(all.map(taper)));
  const harmonic = (f: (x: number) => number): number => (2 / all.length) * all.reduce((s, p) => s + c.lean(p) * f(p * RAD), 0);
  say('lean.whole', null, 'value', Math.hypot(harmonic(Math.cos), harmonic(Math.sin)));
  say(
    'margin.visible',
    null,
    'share',
    all.filter((phi) => isSeen(t, c, phi, tx * Math.sin(phi * RAD) + ty * Math.cos(phi * RAD))).length / all.length,
  );
  say('margin.even', null, 'value', spread(all.map(c.width)));
  say('margin.thinnest', null, 'value', Math.min(...all.map((p) => mean([-4, -2, 0, 2, 4].map((d) => c.width(p + d))))));
  for (const [zone, at] of SECTORS) say('wall.lean', zone, 'median', quantile(within(all, at).map(c.lean), 0.5));
  for (const [zone, own] of [[null, all] as const, ...SECTORS.map(([z, at]) => [z, within(all, at)] as const)]) {
    const w = own.map(c.width);
    const over = own.map(c.over);
    const lip = own.map(c.lip);
    for (const [stat, q] of [
      ['min', 0],
      ['p05', 0.05],
      ['median', 0.5],
      ['p95', 0.95],
    ] as const) {
      say('margin.width', zone, stat, quantile(w, q));
      if (stat !== 'p05') say('margin.gingiva', zone, stat, quantile(over, q));
    }
    say('margin.lip', zone, 'max', quantile(lip, 1));
  }
  const heights = all.map((phi) => {
    const k = cutCorners(t, c, phi);
    return turnedAt(rounded(k.line, k.radii, 0.01).points, 45)[1] - k.finish[1];
  });
  say('wall.height', null, 'min', quantile(heights, 0));
  say('wall.height', null, 'mean', mean(heights));
  const overCej = all.map((phi) => c.over(phi) + gingiva(phi) - cej(phi));
  for (const [stat, q] of [
    ['min', 0],
    ['median', 0.5],
    ['max', 1],
  ] as const)
    say('margin.cej', null, stat, quantile(overCej, q));
  if (c.bevel) {
    say('line.cusps.bevel', null, 'value', edgeToRow(t, c));
    say('bevel.functional.angle', null, 'value', c.bevel.angle);
    // Between the middles of the arcs at its ends, where the direction is midway; along the profile.
    const own = all.filter((phi) => functionalSide(t, phi) > 0);
    const widths = own.map((phi) => {
      const k = cutCorners(t, c, phi);
      const { points, corners } = rounded(k.line, k.radii, 0.01);
      return length(points.slice(corners[corners.length - 2], corners[corners.length - 1] + 1));
    });
    say('bevel.functional.width', null, 'value', quantile(widths, 0.5));
  }
  const sharp = all.reduce((s, phi) => {
    const k = cutCorners(t, c, phi);
    if (c.edge >= 0.2) return s;
    return s + ((k.top[0] * 2 * Math.PI) / all.length) * (c.bevel && functionalSide(t, phi) ? 2 : 1);
  }, 0);
  if (c.edge === 0 || c.edge >= 0.3) say('edge.sharp', null, 'value', sharp);
  for (const s of ['mesial', 'distal'] as const) say(`neighbour.${s}`, null, 'max', c.nick?.side === s ? c.nick.depth : 0);
  say('undercut.depth', null, 'max', undercut ? Number.NaN : 0);
  return out.filter((q) => Number.isFinite(q.value));
}

/** Distance of the bevel's upper edge from the row of the neighbours' functional tips, + facial: mean over the 18° to both sides of every functional cusp. */
function edgeToRow(t: Tooth, c: LoftCrown): number {
  const own = t.cusps.filter((q) => q.role === 'functional');
  const toFacial = Math.cos(own[0].azimuth * RAD) > 0 ? 1 : -1;
  const beside = tipsBeside(t);
  const row = [beside.mesial, beside.distal].map((tips) =>
    tips.filter((p) => tips.length === 1 || toFacial * (p[1] - mean(tips.map((q) => q[1]))) > 0),
  );
  const p = row.flat();
  const [mx, my] = [mean(p.map((q) => q[0])), mean(p.map((q) => q[1]))];
  const slope = p.reduce((s, q) => s + (q[0] - mx) * (q[1] - my), 0) / p.reduce((s, q) => s + (q[0] - mx) ** 2, 0);
  return mean(
    own.flatMap((q) =>
      Array.from({ length: 19 }, (_, i) => q.azimuth - 18 + 2 * i).map((phi) => {
        const k = cutCorners(t, c, phi);
        const { points, corners } = rounded(k.line, k.radii, 0.01);
        const [r] = points[corners[corners.length - 1]];
        return (r * Math.cos(phi * RAD) - my - slope * (r * Math.sin(phi * RAD) - mx)) / Math.hypot(1, slope);
      }),
    ),
  );
}

/** mm by which something may stand over the finish line and leave it in sight. */
const SIGHT = 0.03;

/** Whether nothing stands over the finish line, looked at along a path that runs outward by so much per mm of height. */
function isSeen(t: Tooth, c: LoftCrown, phi: number, outward: number): boolean {
  const { line, radii, finish } = cutCorners(t, c, phi);
  return rounded(line, radii, 0.02).points.every(([r, z]) => z <= finish[1] + SIGHT || r - (z - finish[1]) * outward - finish[0] <= SIGHT);
}

/** From the finish line up: where the line has turned by so many degrees from upright. */
export function turnedAt(line: readonly P[], degrees: number): P {
  let steep = false;
  for (let i = 1; i < line.length; i++) {
    const a = Math.atan2(line[i - 1][0] - line[i][0], line[i][1] - line[i - 1][1]) / RAD;
    if (Math.abs(a) < 30) steep = true;
    else if (steep && a >= degrees) return line[i - 1];
  }
  return line[line.length - 1];
}

const mean = (v: readonly number[]): number => v.reduce((s, q) => s + q, 0) / v.length;

const within = (all: readonly number[], at: number): number[] => all.filter((p) => Math.abs(((p - at + 540) % 360) - 180) <= 45);
