import { contours } from 'd3-contour';
import { distanceToLine } from '../linalg/curve.ts';
import { determinant3 } from '../linalg/rigid.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { type Master, PART, partAlone } from '../master/master.ts';
import type { Standard } from '../score/standard.ts';
import type { Band } from '../score/verdict.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal, type Surface, signOf } from '../spatial/surface.ts';

/** An upright plane through the tooth: a place on it seen from above, and its direction there. */
export interface GuidePlane {
  readonly name: string;
  readonly at: readonly [x: number, y: number];
  readonly along: readonly [x: number, y: number];
}
type Point = readonly [across: number, up: number];

/** A probe site on a plane: where the probe stands, which way it goes in, and the depth that is asked for there. */
export interface GuideTick {
  readonly zone: string;
  readonly at: Point;
  readonly inward: Point;
  readonly band: Band;
}

export interface GuideSection {
  readonly plane: GuidePlane;
  /** Lines as points (across, up), mm: the tooth as it was, and where the preparation's surface may lie. */
  readonly original: readonly (readonly Point[])[];
  readonly least: readonly (readonly Point[])[];
  readonly most: readonly (readonly Point[])[];
  readonly ticks: readonly GuideTick[];
}

/** What a plan is drawn on: sections, the tooth from above, and how high a box is cut. */
export interface Guide {
  readonly sections: readonly GuideSection[];
  /** From above, points (x mesial, y facial), mm: the tooth's widest outline, its neck, its grooves. */
  readonly outline: readonly Point[];
  readonly neck: readonly Point[];
  readonly grooves: readonly (readonly Point[])[];
  readonly cusps: readonly { readonly name: string; readonly role: string; readonly at: Point }[];
  /** mm from the higher marginal ridge down to the gingival margin on its side; null without a ridge. */
  readonly ridgeToMargin: number | null;
  /** +1 where mesial lies to the right of a picture from above, −1 where to the left. */
  readonly mesialSign: 1 | -1;
}

/** mm between the places of the plane at which distances are taken, and how far they reach. */
const STEP = 0.12;
const HALF = 7.2;
/** mm over the gingival margin from which the tooth is drawn. */
const FROM = 0.2;
/** Upward part of a surface's direction from which it is occlusal. */
const UPWARD = 0.55;
/** mm from the groove's line within which a depth is the groove's. */
const GROOVE = 0.7;

/** Planes through each pair of cusps from facial to lingual, and one along the middle; on anterior teeth one each way. */
export function guidePlanes(m: Pick<Master, 'landmarks'>): GuidePlane[] {
  const { cusps, grooves } = m.landmarks;
  const facial = cusps.filter((c) => c.at[1] > 0).sort((a, b) => b.at[0] - a.at[0]);
  const lingual = cusps.filter((c) => c.at[1] <= 0).sort((a, b) => b.at[0] - a.at[0]);
  const central = grooves.find((g) => g.name === 'central')?.line ?? [];
  const y = central.length ? central.reduce((s, p) => s + p[1], 0) / central.length : 0;
  const across = lingual.map((l): GuidePlane => {
    const pair = facial.reduce<(typeof facial)[number] | null>(
      (a, b) => (a && Math.abs(a.at[0] - l.at[0]) <= Math.abs(b.at[0] - l.at[0]) ? a : b),
      null,
    );
    return { name: pair ? `${pair.name} to ${l.name}` : l.name, at: [pair ? (pair.at[0] + l.at[0]) / 2 : l.at[0], 0], along: [0, 1] };
  });
  return [
    ...(across.length ? across : [{ name: 'facial to lingual', at: [0, 0], along: [0, 1] } as const]),
    { name: 'mesial to distal', at: [0, y], along: [1, 0] },
  ];
}

/** Which depth is asked for at a place of the tooth's surface: by zone, as the standard has it. */
type Ask = (p: Vec3, upward: number) => { readonly zone: string; readonly band: Band } | null;

/** The bands of a standard over the whole surface: near the groove, at the cusps by their role, on the sides by their third. */
export function asksOf(m: Pick<Master, 'landmarks'>, standard: Pick<Standard, 'lines'>): Ask {
  const fields = standard.lines.flatMap((l) => l.fields).filter((f) => f.stat === 'median' || f.stat === 'value');
  const band = (reading: string, ...zones: (string | null)[]): Band | null => {
    for (const z of zones) {
      const f = fields.find((q) => q.reading === reading && q.zone === z && q.band.lo !== null);
      if (f) return f.band;
    }
    return null;
  };
  const { cusps, grooves } = m.landmarks;
  const central = grooves.find((g) => g.name === 'central')?.line ?? [];
  const top = Math.max(...cusps.map((c) => c.at[2]), 1);
  return (p, upward) => {
    if (upward > UPWARD && cusps.length) {
      const isEdge = cusps.every((c) => c.name === 'edge') || band('reduction.incisal', null) !== null;
      if (isEdge && p[2] > 0.8 * top) return asked('edge', band('reduction.incisal', null));
      if (central.length && distanceToLine(central, p[0], p[1]) < GROOVE)
        return asked(
          'central groove',
          band('reduction.occlusal', 'central groove', 'functional cusps', 'all cusps') ?? band('depth.pulpal', null),
        );
      const near = cusps.reduce((a, b) =>
        Math.hypot(b.at[0] - p[0], b.at[1] - p[1]) < Math.hypot(a.at[0] - p[0], a.at[1] - p[1]) ? b : a,
      );
      return asked(near.name, band('reduction.occlusal', near.name, `${near.role} cusps`, 'all cusps', null));
    }
    const side = Math.abs(p[1]) >= Math.abs(p[0]) ? (p[1] > 0 ? 'facial' : 'lingual') : p[0] > 0 ? 'mesial' : 'distal';
    const share = p[2] / top;
    const third = share < 1 / 3 ? 'gingival third' : share < 2 / 3 ? 'mid third' : 'outer third';
    return asked(
      `${side} ${third}`,
      band('reduction.axial', `${side} ${third}`, `${side} mid third`, `${side} gingival third`, `${side} outer third`),
    );
  };
}
const asked = (zone: string, band: Band | null) => (band ? { zone, band } : null);

/**
 * A section for a reduction guide: the tooth's own outline, and where the preparation's surface lies when everywhere the least or the most of
 * what the standard asks is gone, as closest distances from the tooth's surface; ticks where a probe is put.
 * @formula contour of the distance to the unprepared surface at the band's lower and upper limit of the nearest place
 * @units mm
 * @frame plane: across from the plane's own place, up along the tooth's axis
 * @source docs/plan.md
 * @example a cylinder of radius 5 with a band of 1 to 1.5 on its side: upright lines at 4 and 3.5
 */
export function guideSection(m: Master, plane: GuidePlane, ask: Ask): GuideSection {
  const surface = partAlone(m, PART.target) ?? m.target;
  const top = Math.max(...m.landmarks.cusps.map((c) => c.at[2]), 3) + 0.6;
  const [n, rows] = [Math.round((2 * HALF) / STEP) + 1, Math.round((top - FROM) / STEP) + 1];
  const size = n * rows;
  const [own, least, most] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
  // Where nothing is asked of the nearest place there is no line.
  const nothing = new Uint8Array(size);
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < n; i++) {
      const [u, z] = [i * STEP - HALF, FROM + j * STEP];
      const [x, y] = [plane.at[0] + u * plane.along[0], plane.at[1] + u * plane.along[1]];
      const k = j * n + i;
      if (!closestPoint(surface, x, y, z, hit)) continue;
      const inside = -signOf(surface, hit, x, y, z) * Math.sqrt(hit.distanceSquared);
      pseudoNormal(surface, hit, normal);
      const length = Math.hypot(...normal) || 1;
      const a = inside > 0 ? ask([hit.x, hit.y, hit.z], normal[2] / length) : null;
      own[k] = inside;
      // Nearest to where the scan ends at the neck, nobody knows how deep a place lies.
      if (inside > 0 && (!a || onBorder(surface, hit))) nothing[k] = 1;
      least[k] = inside - (a?.band.lo ?? Infinity);
      most[k] = inside - (a?.band.hi ?? Infinity);
    }
  const lines = (values: Float64Array, without: Uint8Array | null = nothing): Point[][] =>
    openLines(
      contours()
        .size([n, rows])
        .contour(
          Array.from(values, (v) => (Number.isFinite(v) ? v : -9)),
          0,
        ).coordinates,
      n,
      rows,
      without,
    );
  const original = lines(own, null);
  return { plane, original, least: lines(least), most: lines(most), ticks: ticksOf(surface, plane, ask, original) };
}

/** Rings of a contour as open lines in mm: pieces along the border of what was looked at are no surface. */
function openLines(
  polygons: readonly (readonly (readonly (readonly number[])[])[])[],
  n: number,
  rows: number,
  without: Uint8Array | null,
): Point[][] {
  const out: Point[][] = [];
  for (const ring of polygons.flat()) {
    const isBorder = (p: readonly number[]): boolean => {
      if (p[0] <= 0.5 || p[1] <= 0.5 || p[0] >= n - 0.5 || p[1] >= rows - 0.5) return true;
      const [i, j] = [Math.floor(p[0] - 0.5), Math.floor(p[1] - 0.5)];
      return without !== null && [0, 1, n, n + 1].some((k) => without[j * n + i + k]);
    };
    const start = ring.findIndex(isBorder);
    const turned = start < 0 ? ring : [...ring.slice(start), ...ring.slice(0, start)];
    let line: Point[] = [];
    const close = (): void => {
      // Specks of a grid's corner are no line.
      if (line.length > SPECK) out.push(line);
      line = [];
    };
    for (const p of turned) {
      if (isBorder(p)) close();
      else line.push([(p[0] - 0.5) * STEP - HALF, FROM + (p[1] - 0.5) * STEP]);
    }
    close();
  }
  return out;
}

/** Points of a line up to which it is a speck of the grid. */
const SPECK = 12;

/** mm along the outline between ticks. */
const APART = 1.6;

/** Ticks along the tooth's outline, one at a time where another zone begins or some way after the last. */
function ticksOf(surface: Surface, plane: GuidePlane, ask: Ask, outline: readonly (readonly Point[])[]): GuideTick[] {
  const out: GuideTick[] = [];
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  const line = [...outline].sort((a, b) => b.length - a.length)[0] ?? [];
  let run = APART / 2;
  for (let i = 1; i < line.length; i++) {
    run += Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]);
    if (run < APART) continue;
    const [u, z] = line[i];
    if (!closestPoint(surface, plane.at[0] + u * plane.along[0], plane.at[1] + u * plane.along[1], z, hit)) continue;
    pseudoNormal(surface, hit, normal);
    const a = ask([hit.x, hit.y, hit.z], normal[2] / (Math.hypot(...normal) || 1));
    if (!a) continue;
    const inward: Point = [-(normal[0] * plane.along[0] + normal[1] * plane.along[1]), -normal[2]];
    const l = Math.hypot(...inward) || 1;
    out.push({ zone: a.zone, at: [u, z], inward: [inward[0] / l, inward[1] / l], band: a.band });
    run = 0;
  }
  return out;
}

/**
 * What a probe with half-millimetre marks says of a gap under a guide: the two marks between which it lies.
 * @formula ⌊2g⌋ ÷ 2 to ⌊2g⌋ ÷ 2 + 0.5
 * @units mm
 * @source docs/plan.md
 * @example 1.27: 1.0 to 1.5
 */
export function inHalves(gap_mm: number): readonly [number, number] {
  const lo = Math.max(0, Math.floor(gap_mm * 2 + 1e-9) / 2);
  return [lo, lo + 0.5];
}

/** mm from the middle of a side within which its gingival margin is a box's. */
const NEAR = 1.5;
/** Degrees between the points of a tooth's outline from above. */
const TURN = 4;

/** Everything that a plan is drawn on, from a master and a standard. */
export function guideOf(m: Master, standard: Pick<Standard, 'lines'>): Guide {
  const ask = asksOf(m, standard);
  const p = (partAlone(m, PART.target) ?? m.target).mesh.positions;
  const reach = new Float64Array(360 / TURN);
  for (let i = 0; i < p.length; i += 3) {
    const k = Math.floor((((Math.atan2(p[i], p[i + 1]) * 180) / Math.PI + 360) % 360) / TURN);
    reach[k] = Math.max(reach[k], Math.hypot(p[i], p[i + 1]));
  }
  const outline = [...reach].map((r, k): Point => {
    const a = (((k + 0.5) * TURN) / 180) * Math.PI;
    return [r * Math.sin(a), r * Math.cos(a)];
  });
  const flat = (line: readonly Vec3[]): Point[] => line.map((q): Point => [q[0], q[1]]);
  const { ridges, gingivalMargin, grooves, cusps } = m.landmarks;
  const margin = (side: 1 | -1): number =>
    Math.min(...gingivalMargin.filter((q) => side * q[0] > 0 && Math.abs(q[1]) < NEAR).map((q) => q[2]));
  const heights = (
    [
      ['mesial', 1],
      ['distal', -1],
    ] as const
  ).flatMap(([side, sign]) => {
    const low = Math.min(...ridges[side].map((q) => q[2]));
    return Number.isFinite(low) && Number.isFinite(margin(sign)) ? [low - margin(sign)] : [];
  });
  return {
    sections: guidePlanes(m).map((plane) => guideSection(m, plane, ask)),
    outline,
    neck: flat(gingivalMargin),
    grooves: grooves.map((g) => flat(g.line)),
    cusps: cusps.map((c) => ({ name: c.name, role: c.role, at: [c.at[0], c.at[1]] as const })),
    ridgeToMargin: heights.length ? Math.max(...heights) : null,
    mesialSign: determinant3(m.toTooth) < 0 ? -1 : 1,
  };
}
