import type { Stat, Unit } from '../../catalogue/terms.ts';
import { closedCentroid, distanceToLine, trimmed } from '../../linalg/curve.ts';
import { azimuthOf, inSector, SECTORS, SIDES } from '../../linalg/sectors.ts';
import { cross, DEG, dot, scale, sub, unit, type Vec3 } from '../../linalg/vec.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { mean, weightedQuantiles } from '../../statistics/quantile.ts';
import type { CrownEnvelope, CutProfile } from '../crown/envelope.ts';
import { PolarCurve } from '../polar-curve.ts';
import type { Typodont } from '../typodont.ts';
import { archTruth } from './arch-truth.ts';
import { biteTruth, type Opposing } from './bite-truth.ts';
import { cutSurface, isOcclusal, type Quad } from './cut-surface.ts';
import { fineSurface } from './fine.ts';
import { bevelOpposingTruth } from './functional-bevel-truth.ts';
import { incisalTruth } from './incisal-truth.ts';
import { directionOf, leanTowards, truePath } from './insertion-truth.ts';
import { marginBevelTruth } from './margin-bevel-truth.ts';
import { sightTruth } from './sight-truth.ts';
import type { Sample, Truth } from './truth.ts';

/** Azimuths of a truth, half a degree apart: four per half plane of the measure. */
const SAMPLES = 720;
/** mm */
const LEAST_WALL = 0.8;

/** The walls as a crown recipe cuts them, half a degree apart: their lines and curves, their leans two degrees apart, and the path that these leave. */
function wallsOf(t: Typodont, envelope: CrownEnvelope) {
  const origin = closedCentroid(t.gingivalMargin);
  const place = (phi: number, r: number, z: number): Vec3 => [r * Math.sin(phi) - origin[0], r * Math.cos(phi) - origin[1], z - origin[2]];
  const profiles = Array.from({ length: SAMPLES }, (_, k) => {
    const phi = (2 * Math.PI * k) / SAMPLES;
    const p = envelope.profile(phi);
    const wall = (z: number): Vec3 => place(phi, p.foot[0] - (z - p.foot[1]) * Math.tan((p.lean * Math.PI) / 180), z);
    return { phi, p, wall };
  });
  const foot = new PolarCurve(profiles.map(({ p, wall }) => wall(p.foot[1])));
  const low = new PolarCurve(profiles.map(({ p, wall }) => wall(p.wallFoot + 0.1)));
  // The wall is straight by construction: any second height on its line will do, however short the wall itself is.
  const high = new PolarCurve(profiles.map(({ p, wall }) => wall(p.wallFoot + 1.1)));
  const normals = profiles.flatMap(({ p, wall }, k) => {
    if (p.wallTop - p.wallFoot < LEAST_WALL) return [];
    const next = profiles[(k + 1) % SAMPLES];
    const z = (p.wallFoot + p.wallTop) / 2;
    const around = sub(next.wall(z), wall(z));
    const n = unit(cross(around, sub(wall(z + 0.2), wall(z))));
    return [dot(n, [Math.sin((2 * Math.PI * k) / SAMPLES), Math.cos((2 * Math.PI * k) / SAMPLES), 0]) < 0 ? scale(n, -1) : n];
  });
  const azimuths = Array.from({ length: 180 }, (_, k) => 2 * k);
  const lean = azimuths.map((a, k) => {
    const l = low.at(a);
    const h = high.at(a);
    const { p } = profiles[(k * SAMPLES) / azimuths.length];
    // Where hardly any upright wall was left standing there is no wall to have a lean.
    return p.wallTop - p.wallFoot < LEAST_WALL ? null : (Math.atan2(l.r - h.r, h.z - l.z) * 180) / Math.PI;
  });
  return { origin, place, profiles, foot, azimuths, lean, draw: truePath(lean, normals) };
}

/** True path of insertion of a crown, unit vector in the construction frame. */
export const crownPath = (t: Typodont, envelope: CrownEnvelope): Vec3 => directionOf(wallsOf(t, envelope).draw);

/** True values of every reading that a crown recipe determines, from the construction's own curves and formulas; of its bite where the opposing teeth are given. */
export function crownTruth(t: Typodont, envelope: CrownEnvelope, opposing: Opposing | null = null): Truth[] {
  const { origin, place, profiles, foot, azimuths, lean, draw } = wallsOf(t, envelope);
  const finish = new PolarCurve(profiles.map(({ phi, p }) => place(phi, p.finish[0], p.finish[1])));
  const top = new PolarCurve(profiles.map(({ phi, p }) => place(phi, p.edge[0], p.edge[1])));
  const way = directionOf(draw);
  const edgeHeight = (a: number): number => {
    const [edge, line] = [top.at(a), finish.at(a)];
    const out = way[0] * Math.sin(a * DEG) + way[1] * Math.cos(a * DEG);
    return (edge.r - line.r) * out + (edge.z - line.z) * way[2];
  };
  const gingiva = new PolarCurve(t.gingivalMargin.map((g) => sub(g, origin)));
  const width = azimuths.map((a) => finish.at(a).r - foot.at(a).r);
  const height = azimuths.map((a) => finish.at(a).z - gingiva.at(a).z);
  const taper = lean.map((v, k) => (v === null ? null : v + leanTowards(draw, azimuths[k])));
  const out: Truth[] = [];
  const stats = (name: string, zone: string | null, unitOf: Unit, values: readonly (number | null)[]): void => {
    const v = values.filter((q): q is number => q !== null);
    if (v.length < 0.9 * values.length) return;
    const [p05, median, p95] = weightedQuantiles(
      v,
      v.map(() => 1),
      [0.05, 0.5, 0.95],
    );
    for (const [stat, value] of [
      ['min', Math.min(...v)],
      ['p05', p05],
      ['median', median],
      ['mean', mean(v)],
      ['p95', p95],
      ['max', Math.max(...v)],
    ] as const)
      if (name !== 'margin.lip' || LIP_STATS.has(stat)) out.push({ name, zone, stat, unit: unitOf, value });
  };
  for (const [name, values, u] of [
    ['margin.width', width, 'mm'],
    ['margin.gingiva', height, 'mm'],
    ['taper.wall', taper, 'deg'],
    ['wall.lean', lean, 'deg'],
    ['wall.height', azimuths.map(edgeHeight), 'mm'],
    ['margin.lip', azimuths.map((_, k) => lipOf(profiles[(k * SAMPLES) / azimuths.length].p)), 'mm'],
    ['margin.exit', azimuths.map((_, k) => exitOf(t, profiles[(k * SAMPLES) / azimuths.length])), 'deg'],
  ] as const) {
    stats(name, null, u, values);
    for (const s of SECTORS)
      stats(
        name,
        s.name,
        u,
        values.filter((_, k) => inSector(azimuths[k], s)),
      );
  }
  const pairs = azimuths.map((_, k) => {
    const [a, b] = [taper[k], taper[(k + azimuths.length / 2) % azimuths.length]];
    return a === null || b === null ? null : a + b;
  });
  for (const [name, accept] of [
    ['toc.faciolingual', (a: number) => a <= 30 || a >= 330],
    ['toc.mesiodistal', (a: number) => Math.abs(a - 90) <= 30],
    ['toc.mean', (a: number) => a < 180],
  ] as const) {
    const sums = pairs.filter((_, k) => accept(azimuths[k]));
    const there = sums.filter((v): v is number => v !== null);
    if (there.length === sums.length) out.push({ name, zone: null, stat: 'mean', unit: 'deg', value: mean(there) });
  }
  out.push(...evenTruth(azimuths, width, lean, taper));
  out.push(...marginBevelTruth(envelope.recipe));
  out.push({ name: 'draw.tilt', zone: null, stat: 'value', unit: 'deg', value: draw.tilt });
  const quads = cutSurface(envelope, origin, { finish, top });
  out.push(...reductionTruth(t, origin, quads));
  out.push(sightTruth(origin, finish, quads, way));
  if (opposing) out.push(...biteTruth(t, opposing, origin, profiles, quads), ...bevelOpposingTruth(t, envelope, opposing));
  out.push(...archTruth(t, envelope, origin, finish, quads.filter(isOcclusal)));
  out.push(
    ...incisalTruth(
      t,
      envelope,
      origin,
      quads.map((q) => ({ ...q, p: sub(q.p, origin) })),
    ),
  );
  return out;
}

/** Spreads of width and taper, the thinnest 10°, and the first harmonic of the leans, summed as a Fourier series over the whole circle. */
function evenTruth(
  azimuths: readonly number[],
  width: readonly number[],
  lean: readonly (number | null)[],
  taper: readonly (number | null)[],
): Truth[] {
  const n = azimuths.length;
  const spread = (v: readonly number[]): number => {
    const [low, high] = weightedQuantiles(
      v,
      v.map(() => 1),
      [0.05, 0.95],
    );
    return high - low;
  };
  const of = (name: string, unitOf: Unit, value: number): Truth => ({ name, zone: null, stat: 'value', unit: unitOf, value });
  const thin = width.map((_, k) => mean(Array.from({ length: 5 }, (__, i) => width[(k + i) % n])));
  const out = [of('margin.even', 'mm', spread(width)), of('margin.thinnest', 'mm', Math.min(...thin))];
  const walls = lean.filter((v): v is number => v !== null);
  if (walls.length < n) return out;
  const along = (f: (a: number) => number): number => (2 / n) * walls.reduce((s, v, k) => s + v * f((azimuths[k] * Math.PI) / 180), 0);
  return [
    ...out,
    of('taper.even', 'deg', spread(taper as number[])),
    of('lean.whole', 'deg', Math.hypot(along(Math.cos), along(Math.sin))),
  ];
}

/** For a lip only the largest height is asked for. */
const LIP_STATS: ReadonlySet<Stat> = new Set(['median', 'p95', 'max']);

/** How far the edge stands over the lowest point of the cut inside it. */
const lipOf = ({ finish: [r, z], width, line }: CutProfile): number =>
  Math.max(0, z - Math.min(...line.filter((q) => q[0] < r && q[0] > r - width).map((q) => q[1])));

/** Angle between the cut's first 0.2 mm inward of the finish line and the tooth's side over the 0.5 mm below it. */
function exitOf(
  t: Typodont,
  { phi, p }: { phi: number; p: { line: readonly (readonly [number, number])[]; finish: readonly [number, number] } },
): number | null {
  const [r, z] = p.finish;
  const below = Math.min(0.5, z - t.margin(phi));
  if (below < 0.15) return null;
  const inside = p.line.filter((q) => q[0] <= r + 1e-9 && Math.hypot(q[0] - r, q[1] - z) >= 0.2).reduce((a, b) => (b[0] > a[0] ? b : a));
  const u = [inside[0] - r, inside[1] - z];
  const w = [t.target.side(phi, z - below) - r, -below];
  return (Math.acos((u[0] * w[0] + u[1] * w[1]) / Math.hypot(...u) / Math.hypot(...w)) * 180) / Math.PI;
}

/** Depths over the occlusal zones and the wall thirds: the cut surface sampled from its formula, distances to the tooth's formula. */
function reductionTruth(t: Typodont, o: Vec3, quads: readonly Quad[]): Truth[] {
  const out: Truth[] = [];
  const tooth = fineSurface(t.teeth[0]);
  const hit = newClosest();
  const quantiles = (name: string, zone: string, samples: readonly Sample[]): void => {
    if (samples.length < 8) return;
    const d = samples.map((s) => {
      closestPoint(tooth, s.p[0], s.p[1], s.p[2], hit);
      return Math.sqrt(hit.distanceSquared);
    });
    const [p05, median, p95] = weightedQuantiles(
      d,
      samples.map((s) => s.weight),
      [0.05, 0.5, 0.95],
    );
    for (const [stat, value] of [
      ['p05', p05],
      ['median', median],
      ['p95', p95],
    ] as const)
      out.push({ name, zone, stat, unit: 'mm', value });
  };
  const steep = (q: Quad): boolean => q.up <= 0.5 && q.overFoot;
  const occlusal = quads.filter(isOcclusal);
  for (const cusp of t.target.cusps)
    quantiles(
      'reduction.occlusal',
      cusp.name,
      occlusal.filter((q) => Math.hypot(q.p[0] - cusp.at[0], q.p[1] - cusp.at[1]) <= 1.25),
    );
  const groove = t.target.grooves.find((g) => g.name === 'central');
  if (groove) {
    const line = trimmed(groove.line, 0.1);
    quantiles(
      'reduction.occlusal',
      'central groove',
      occlusal.filter((q) => distanceToLine(line, q.p[0], q.p[1]) <= 0.5),
    );
  }
  const walls = quads.filter(steep);
  for (const side of SIDES) {
    const centre = { facial: 0, mesial: 90, lingual: 180, distal: 270 }[side];
    const here = walls.filter((q) => inSector(azimuthOf(q.p[0] - o[0], q.p[1] - o[1]), { centre, half: 45 }));
    for (const [third, from, to] of [
      ['gingival third', 0, 1 / 3],
      ['mid third', 1 / 3, 2 / 3],
      ['outer third', 2 / 3, 1],
    ] as const)
      quantiles(
        'reduction.axial',
        `${side} ${third}`,
        here.filter((q) => q.share >= from && q.share < to),
      );
  }
  return out;
}
