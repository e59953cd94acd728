// Family "loft": teeth and stumps as surfaces of profiles lofted round the axis, meshed directly, without bodies or booleans.
import type { Vec3 } from '#core/linalg/vec.ts';
import { PART } from '#core/master/master.ts';
import { type ForeignCase, SCAN, type ScanOptions, type Truth } from './case.ts';
import { emptySheet, foreignMaster, type Sheet, scanOf } from './scanner.ts';

type P = readonly [number, number];
const RAD = Math.PI / 180;

interface Tooth {
  readonly tooth: string;
  readonly anterior: boolean;
  readonly md: number;
  readonly fl: number;
  readonly h: number;
  /** Cusps by azimuth (degrees) round the rim. */
  readonly cusps: readonly { readonly name: string; readonly role: 'functional' | 'non-functional'; readonly azimuth: number }[];
}

const molar = (tooth: string, md: number, fl: number, h: number): Tooth => {
  const upper = ['1', '2'].includes(tooth[0]);
  const role = (facial: boolean) => (facial === upper ? 'non-functional' : 'functional') as 'functional' | 'non-functional';
  return {
    tooth,
    anterior: false,
    md,
    fl,
    h,
    cusps: [
      { name: 'MB', role: role(true), azimuth: 42 },
      { name: 'DB', role: role(true), azimuth: 318 },
      { name: 'ML', role: role(false), azimuth: 138 },
      { name: 'DL', role: role(false), azimuth: 222 },
    ],
  };
};

export const LOFT_TEETH: Readonly<Record<string, Tooth>> = {
  molar46: molar('46', 11.2, 10, 6.8),
  molar26: molar('26', 10.4, 11.4, 6.6),
  premolar35: {
    tooth: '35',
    anterior: false,
    md: 7.2,
    fl: 8.4,
    h: 7,
    cusps: [
      { name: 'B', role: 'functional', azimuth: 0 },
      { name: 'L', role: 'non-functional', azimuth: 180 },
    ],
  },
  premolar14: {
    tooth: '14',
    anterior: false,
    md: 7,
    fl: 9.2,
    h: 7.4,
    cusps: [
      { name: 'B', role: 'non-functional', azimuth: 0 },
      { name: 'L', role: 'functional', azimuth: 180 },
    ],
  },
};

/** A bump of cos² about an azimuth. */
const bump = (phi: number, at: number, half: number): number => {
  const d = Math.abs(((((phi - at) % 360) + 540) % 360) - 180);
  return d < half ? Math.cos((d / half) * 90 * RAD) ** 2 : 0;
};

/** Distance from the axis of the tooth's uncut side: superellipse sections that swell to the height of contour and draw in above. */
function side(t: Tooth, phi: number, z: number): number {
  const u = Math.max(-0.5, Math.min(1.1, z / t.h));
  const swell = 0.86 + 0.14 * Math.cos((u - 0.42) * 2.1) ** 2;
  // Fuller mesially and facially, as teeth are: no two ways of laying the tooth on itself fit.
  const a = (t.md / 2) * swell * (1 + 0.04 * Math.sin(phi * RAD));
  const b = (t.fl / 2) * swell * (1 - 0.16 * Math.max(0, u - 0.4) ** 2) * (1 + 0.03 * Math.cos(phi * RAD));
  const n = 2.6;
  return (Math.abs(Math.sin(phi * RAD) / a) ** n + Math.abs(Math.cos(phi * RAD) / b) ** n) ** (-1 / n);
}

const gingiva = (phi: number): number => 0.15 - 0.35 * Math.cos(2 * phi * RAD) + 0.12 * Math.sin(phi * RAD) - 0.1 * Math.cos(phi * RAD);
const rimZ = (t: Tooth, phi: number): number =>
  t.h - 1.1 + t.cusps.reduce((s, c) => s + 1.1 * bump(phi, c.azimuth, t.cusps.length > 2 ? 52 : 95), 0);

/** A polyline with its corners replaced by arcs of the given radii, points no farther apart than `step`. */
export function rounded(line: readonly P[], radii: readonly number[], step: number): { points: P[]; corners: number[] } {
  const out: P[] = [line[0]];
  const corners: number[] = [];
  const to = (q: P): void => {
    const a = out[out.length - 1];
    const l = Math.hypot(q[0] - a[0], q[1] - a[1]);
    const n = Math.max(1, Math.ceil(l / step));
    for (let i = 1; i <= n; i++) out.push([a[0] + ((q[0] - a[0]) * i) / n, a[1] + ((q[1] - a[1]) * i) / n]);
  };
  for (let i = 1; i + 1 < line.length; i++) {
    const [a, b, c] = [line[i - 1], line[i], line[i + 1]];
    const u: P = [a[0] - b[0], a[1] - b[1]];
    const v: P = [c[0] - b[0], c[1] - b[1]];
    const [lu, lv] = [Math.hypot(...u), Math.hypot(...v)];
    const half = Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1]) / (lu * lv)))) / 2;
    const radius = Math.min(radii[i] ?? 0, 0.98 * Math.min(lu, lv) * Math.tan(half));
    if (radius < 1e-4 || half > 89.5 * RAD) {
      to(b);
      corners.push(out.length - 1);
      continue;
    }
    const reach = radius / Math.tan(half);
    const from: P = [b[0] + (u[0] / lu) * reach, b[1] + (u[1] / lu) * reach];
    const end: P = [b[0] + (v[0] / lv) * reach, b[1] + (v[1] / lv) * reach];
    const w = [u[0] / lu + v[0] / lv, u[1] / lu + v[1] / lv];
    const wl = Math.hypot(w[0], w[1]);
    const centre: P = [b[0] + ((w[0] / wl) * radius) / Math.sin(half), b[1] + ((w[1] / wl) * radius) / Math.sin(half)];
    to(from);
    const a0 = Math.atan2(from[1] - centre[1], from[0] - centre[0]);
    let turn = Math.atan2(end[1] - centre[1], end[0] - centre[0]) - a0;
    while (turn > Math.PI) turn -= 2 * Math.PI;
    while (turn < -Math.PI) turn += 2 * Math.PI;
    const n = Math.max(4, Math.ceil((Math.abs(turn) * radius) / step), Math.ceil(Math.abs(turn) / (12 * RAD)));
    for (let k = 1; k <= n; k++)
      out.push([centre[0] + radius * Math.cos(a0 + (turn * k) / n), centre[1] + radius * Math.sin(a0 + (turn * k) / n)]);
    corners.push(out.length - 1 - (n >> 1));
  }
  to(line[line.length - 1]);
  return { points: out, corners };
}

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

const mostLip = (c: LoftCrown): number => Math.max(...Array.from({ length: 72 }, (_, k) => c.lip(5 * k)));

const functionalSide = (t: Tooth, phi: number): number => {
  const own = t.cusps.filter((c) => c.role === 'functional');
  return Math.max(0, ...own.map((c) => (Math.abs(((((phi - c.azimuth) % 360) + 540) % 360) - 180) < 24 ? 1 : 0)));
};

/** Corners of the cut profile from the gum inward to the axis: finish line, foot, top of the wall, end of the bevel, middle. */
function cutCorners(t: Tooth, c: LoftCrown, phi: number): { line: P[]; radii: number[]; finish: P; foot: P; top: P } {
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

const uncutCorners = (t: Tooth, phi: number): { line: P[]; radii: number[] } => {
  const z0 = gingiva(phi) - 1;
  const z1 = rimZ(t, phi);
  const n = 14;
  const line = Array.from({ length: n + 1 }, (_, i): P => {
    const z = z0 + ((z1 - 0.7 - z0) * i) / n;
    return [side(t, phi, z), z];
  });
  const rim: P = [side(t, phi, z1) - 1.3, z1];
  return { line: [...line, rim, [0, t.h - 2.1]], radii: [...line.map(() => 0), 0.9, 0] };
};

const COLUMNS = 360;

/** Points at equal shares of a line's length. */
function evenly(line: readonly P[], count: number): P[] {
  const at = [0];
  for (let i = 1; i < line.length; i++) at.push(at[i - 1] + Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]));
  const total = at[at.length - 1];
  let i = 0;
  return Array.from({ length: count }, (_, k): P => {
    const s = (total * k) / (count - 1);
    while (i + 2 < at.length && at[i + 1] < s) i++;
    const f = (s - at[i]) / (at[i + 1] - at[i] || 1);
    return [line[i][0] + f * (line[i + 1][0] - line[i][0]), line[i][1] + f * (line[i + 1][1] - line[i][1])];
  });
}

/** Rows of each stretch between corners at equal steps, so that every edge of the profile is a row of the mesh. */
function loft(
  sheet: Sheet,
  part: number,
  profile: (phi: number) => readonly (readonly P[])[],
  spacing: number,
  keep: (p: Vec3) => boolean,
  centre = [0, 0],
): void {
  const columns = Math.max(48, Math.round((2 * Math.PI * 5) / spacing));
  const profiles = Array.from({ length: columns }, (_, k) => profile((360 * k) / columns));
  const counts = profiles[0].map((_, s) => {
    const longest = Math.max(...profiles.map((p) => length(p[s])));
    return Math.max(2, 1 + Math.ceil(longest / spacing));
  });
  const rows: P[][] = profiles.map((p) => p.flatMap((stretch, s) => evenly(stretch, counts[s]).slice(s === 0 ? 0 : 1)));
  const n = rows[0].length;
  const first = sheet.positions.length / 3;
  const ok: boolean[] = [];
  for (let k = 0; k < columns; k++)
    for (let j = 0; j < n; j++) {
      // Half a step on in every second row, so that triangles are not all alike.
      const a = (2 * Math.PI * k) / columns;
      const [r, z] = rows[k][j];
      const p: Vec3 = [centre[0] + r * Math.sin(a), centre[1] + r * Math.cos(a), z];
      sheet.positions.push(...p);
      sheet.parts.push(part);
      ok.push(keep(p));
    }
  for (let k = 0; k < columns; k++)
    for (let j = 0; j + 1 < n; j++) {
      const a = k * n + j;
      const b = ((k + 1) % columns) * n + j;
      const add = (u: number, v: number, w: number): void => {
        if (ok[u] && ok[v] && ok[w]) sheet.triangles.push(first + u, first + v, first + w);
      };
      // Azimuth grows from facial (+y) to mesial (+x), clockwise seen from occlusal; profiles run inward.
      if ((k + j) % 2) {
        add(a, a + 1, b);
        add(b, a + 1, b + 1);
      } else {
        add(a, a + 1, b + 1);
        add(a, b + 1, b);
      }
    }
}

const length = (line: readonly P[]): number => line.slice(1).reduce((s, q, i) => s + Math.hypot(q[0] - line[i][0], q[1] - line[i][1]), 0);

/** A profile cut at its corners. */
const stretches = ({ points, corners }: { points: P[]; corners: number[] }): P[][] => {
  const at = [0, ...corners, points.length - 1];
  return at.slice(1).map((end, i) => points.slice(at[i], end + 1));
};

function surroundings(
  sheet: Sheet,
  t: Tooth,
  spacing: number,
  nick: LoftCrown['nick'],
  trench: ((phi: number) => P | null) | null,
  gum = 0,
): void {
  const beside = neighbours(t);
  for (const [part, s] of [
    [PART.mesial, 1],
    [PART.distal, -1],
  ] as const) {
    const n = nick && nick.side === (s === 1 ? 'mesial' : 'distal') ? nick : null;
    const facing = s === 1 ? 270 : 90;
    const { tooth, at } = beside[s === 1 ? 0 : 1];
    loft(
      sheet,
      part,
      (phi) => {
        const { points } = rounded(uncutCorners(tooth, phi).line, uncutCorners(tooth, phi).radii, 0.06);
        const d = Math.abs(((((phi - facing) % 360) + 540) % 360) - 180);
        const dug = points.map(([r, z]): P => {
          if (!n) return [r, z];
          // A spherical cap of the given depth and width, sunk into the face towards the target.
          const arc = d * RAD * r;
          const q = Math.hypot(arc, z - tooth.h * 0.5) / (n.across / 2);
          return [r - (q < 1 ? n.depth * (1 - q * q) : 0), z];
        });
        return [dug];
      },
      n ? Math.min(spacing, 0.1) : 1.3 * spacing,
      (p) => p[2] > gingiva(90) - 0.05 && Math.abs(p[0]) < 14,
      at,
    );
  }
  // Gum: from the tooth outward, level away from it.
  loft(
    sheet,
    PART.gingiva,
    (phi) => {
      const own = trench?.(phi);
      const z = gingiva(phi);
      const r = side(t, phi, z) + (own ? gum : 0.02);
      // From outside inward: far gum, the crest beside the tooth, and down the trench where there is one.
      const start: P[] = [[13, z - 1.6], [r + 2.5, z - 0.6], [r, z], ...(own ? [own] : [])];
      const { points } = rounded(start, [0, 0.8, own ? 0.08 : 0, 0], 0.1);
      return [points];
    },
    1.4 * spacing,
    (p) => Math.abs(p[1]) < t.fl * 0.5 + 4 && Math.abs(p[0]) < 14 && !insideNeighbour(beside, p),
  );
}

/** The mesial neighbour is smaller and the distal one larger than the tooth. */
function neighbours(t: Tooth): { tooth: Tooth; at: [number, number] }[] {
  return [
    [1, 0.9],
    [-1, 1.08],
  ].map(([s, size]) => {
    const tooth = { ...t, md: t.md * size, fl: t.fl * (0.5 + 0.5 * size), h: t.h * (1.1 - 0.1 * size) };
    const apart = side(t, s === 1 ? 90 : 270, t.h * 0.5) + side(tooth, s === 1 ? 270 : 90, t.h * 0.5) + 0.08;
    return { tooth, at: [s * apart, -0.25 * s] };
  });
}

const insideNeighbour = (beside: ReturnType<typeof neighbours>, p: Vec3): boolean =>
  beside.some(({ tooth, at }) => {
    const [x, y] = [p[0] - at[0], p[1] - at[1]];
    return Math.hypot(x, y) < side(tooth, (Math.atan2(x, y) * 180) / Math.PI, p[2]) - 0.05;
  });

function marks(t: Tooth): Parameters<typeof foreignMaster>[3] {
  const at = (phi: number, r: number, z: number): Vec3 => [r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z];
  // Highest place of each cusp's own meridian, from the profile itself.
  const tip = (phi: number): Vec3 => {
    const { points } = rounded(uncutCorners(t, phi).line, uncutCorners(t, phi).radii, 0.03);
    const best = points.reduce((b, q) => (q[1] > b[1] ? q : b));
    return at(phi, best[0], best[1]);
  };
  const ridge = (phi: number): Vec3[] => [-14, 0, 14].map((d) => tip(phi + d));
  return {
    cusps: t.cusps.map((c) => ({ name: c.name, role: c.role, at: tip(c.azimuth) })),
    groove: [-0.3, -0.15, 0, 0.15, 0.3].map((u) => {
      const phi = u < 0 ? 270 : 90;
      const { line } = uncutCorners(t, phi);
      const rim = line[line.length - 2];
      const r = Math.abs(u) * t.md;
      return at(phi, r, t.h - 2.1 + ((rim[1] - (t.h - 2.1)) * r) / rim[0]);
    }),
    mesialRidge: ridge(90),
    distalRidge: ridge(270),
    mesialContact: at(90, side(t, 90, t.h * 0.5), t.h * 0.5),
    distalContact: at(270, side(t, 270, t.h * 0.5), t.h * 0.5),
    gingivalMargin: Array.from({ length: 36 }, (_, k) => at(10 * k, side(t, 10 * k, gingiva(10 * k)), gingiva(10 * k))),
  };
}

const quantile = (v: readonly number[], q: number): number => {
  const s = [...v].sort((a, b) => a - b);
  const i = q * (s.length - 1);
  return s[Math.floor(i)] + (i - Math.floor(i)) * (s[Math.min(s.length - 1, Math.floor(i) + 1)] - s[Math.floor(i)]);
};

const SECTORS = [
  ['facial', 0],
  ['mesial', 90],
  ['lingual', 180],
  ['distal', 270],
] as const;

function crownTruths(t: Tooth, c: LoftCrown): Truth[] {
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
  if (c.bevel) {
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

/** From the finish line up: where the line has turned by so many degrees from upright. */
function turnedAt(line: readonly P[], degrees: number): P {
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

export function loftCrown(name: string, form: string, c: LoftCrown, options: Partial<ScanOptions> = {}): ForeignCase {
  const t = LOFT_TEETH[form];
  const o = { ...SCAN, ...options };
  const uncut = (phi: number): P[][] => stretches(rounded(uncutCorners(t, phi).line, uncutCorners(t, phi).radii, 0.03));
  const seen = (p: Vec3): boolean => {
    const phi = (Math.atan2(p[0], p[1]) * 180) / Math.PI;
    return p[2] > gingiva(phi) - 0.03;
  };
  const arch = emptySheet();
  loft(arch, PART.target, uncut, 0.12, seen);
  surroundings(arch, t, 0.14, null, null);
  const master = foreignMaster(`Loft ${form}`, t.tooth, arch, marks(t));
  const scene = emptySheet();
  loft(
    scene,
    PART.target,
    (phi) => {
      const k = cutCorners(t, c, phi);
      const cut = stretches(rounded(k.line, k.radii, 0.02));
      // Uncut side below the finish line; under the gingiva the gum hides it.
      const low = Math.min(gingiva(phi), k.finish[1] - 0.001);
      const below: P[] = Array.from({ length: 5 }, (_, i) => {
        const z = low + ((k.finish[1] - low) * i) / 4;
        return [side(t, phi, z), z];
      });
      return [below, ...cut];
    },
    o.spacing,
    () => true,
  );
  surroundings(
    scene,
    t,
    o.spacing,
    c.nick,
    (phi) => {
      const over = c.over(phi);
      const z = gingiva(phi) + over;
      return over < -0.02 ? [side(t, phi, z), z] : null;
    },
    c.gum,
  );
  const { scan, pose } = scanOf(t.tooth, scene, o);
  return {
    family: 'loft',
    name,
    kind: 'crown',
    master,
    scan,
    pose,
    truths: o.scale === 1 ? crownTruths(t, c) : [],
    size: o.scale,
    ...(o.mirrored ? { refused: 'align.mirrored' } : {}),
  };
}
