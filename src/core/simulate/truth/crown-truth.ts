import { type Draw, drawDirection, drawLean } from '../../measure/crown/draw-direction.ts';
import { closedCentroid, distanceToLine, trimmed } from '../../linalg/curve.ts';
import { cross, dot, scale, sub, unit, type Vec3 } from '../../linalg/vec.ts';
import { inSector, azimuthOf, SECTORS, SIDES } from '../../segment/sectors.ts';
import type { Stat, Unit } from '../../result/reading.ts';
import { mean, weightedQuantiles } from '../../statistics/quantile.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import { distanceInside } from './implicit-distance.ts';

/** A true value, in the same words as a reading. */
export interface Truth {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: Unit;
  readonly value: number;
}

/** A closed curve round the axis as a table by azimuth of the tooth frame (degrees). */
export class PolarCurve {
  private readonly table: { a: number; r: number; z: number }[];
  constructor(points: readonly Vec3[]) {
    this.table = points.map((p) => ({ a: azimuthOf(p[0], p[1]), r: Math.hypot(p[0], p[1]), z: p[2] })).sort((p, q) => p.a - q.a);
  }
  at(azimuth: number): { r: number; z: number } {
    const t = this.table;
    const a = ((azimuth % 360) + 360) % 360;
    let lo = 0;
    let hi = t.length;
    while (lo < hi) {
      const m = (lo + hi) >> 1;
      if (t[m].a < a) lo = m + 1;
      else hi = m;
    }
    const q = t[lo % t.length];
    const p = t[(lo - 1 + t.length) % t.length];
    const span = (q.a - p.a + 360) % 360 || 360;
    const f = ((a - p.a + 360) % 360) / span;
    return { r: p.r + f * (q.r - p.r), z: p.z + f * (q.z - p.z) };
  }
}

const SAMPLES = 720;

/** True values of every reading that a crown recipe determines, from the construction's own curves and formulas. */
export function crownTruth(t: Typodont, envelope: CrownEnvelope): Truth[] {
  const origin = closedCentroid(t.gingivalMargin);
  const place = (phi: number, r: number, z: number): Vec3 => [r * Math.sin(phi) - origin[0], r * Math.cos(phi) - origin[1], z - origin[2]];
  const profiles = Array.from({ length: SAMPLES }, (_, k) => {
    const phi = (2 * Math.PI * k) / SAMPLES;
    const p = envelope.profile(phi);
    const wall = (z: number): Vec3 => place(phi, p.finish[0] - p.width - (z - (p.finish[1] + p.width * Math.tan((envelope.recipe.margin.slope * Math.PI) / 180))) * Math.tan((p.lean * Math.PI) / 180), z);
    return { phi, p, wall };
  });
  const finish = new PolarCurve(profiles.map(({ phi, p }) => place(phi, p.finish[0], p.finish[1])));
  const foot = new PolarCurve(profiles.map(({ p, wall }) => wall(p.finish[1] + p.width * Math.tan((envelope.recipe.margin.slope * Math.PI) / 180))));
  const low = new PolarCurve(profiles.map(({ p, wall }) => wall(p.wallFoot + 0.1)));
  const high = new PolarCurve(profiles.map(({ p, wall }) => wall(p.wallTop - 0.3)));
  const top = new PolarCurve(profiles.map(({ p, wall }) => wall(p.wallTop)));
  const gingiva = new PolarCurve(t.gingivalMargin.map((g) => sub(g, origin)));
  const normals = profiles.map(({ p, wall }, k) => {
    const next = profiles[(k + 1) % SAMPLES];
    const z = (p.wallFoot + p.wallTop) / 2;
    const around = sub(next.wall(z), wall(z));
    const n = unit(cross(around, sub(wall(z + 0.2), wall(z))));
    return dot(n, [Math.sin((2 * Math.PI * k) / SAMPLES), Math.cos((2 * Math.PI * k) / SAMPLES), 0]) < 0 ? scale(n, -1) : n;
  });
  const draw = drawDirection(normals) as Draw;
  const azimuths = Array.from({ length: 180 }, (_, k) => 2 * k);
  const width = azimuths.map((a) => finish.at(a).r - foot.at(a).r);
  const height = azimuths.map((a) => finish.at(a).z - gingiva.at(a).z);
  const lean = azimuths.map((a) => {
    const l = low.at(a);
    const h = high.at(a);
    return (Math.atan2(l.r - h.r, h.z - l.z) * 180) / Math.PI;
  });
  const taper = azimuths.map((a, k) => lean[k] + drawLean(draw, a));
  const out: Truth[] = [];
  const stats = (name: string, zone: string | null, unitOf: Unit, v: readonly number[]): void => {
    const [p05, median, p95] = weightedQuantiles(v, v.map(() => 1), [0.05, 0.5, 0.95]);
    for (const [stat, value] of [['min', Math.min(...v)], ['p05', p05], ['median', median], ['mean', mean(v)], ['p95', p95], ['max', Math.max(...v)]] as const) out.push({ name, zone, stat, unit: unitOf, value });
  };
  for (const [name, values, u] of [['margin.width', width, 'mm'], ['margin.gingiva', height, 'mm'], ['taper.wall', taper, 'deg'], ['wall.lean', lean, 'deg']] as const) {
    stats(name, null, u, values);
    for (const s of SECTORS) stats(name, s.name, u, values.filter((_, k) => inSector(azimuths[k], s)));
  }
  const pair = (centre: number): number => mean(azimuths.flatMap((a, k) => (Math.abs(a - centre) <= 30 ? [taper[k] + taper[(k + 90) % 180]] : [])));
  const facial = mean(azimuths.flatMap((a, k) => (a <= 30 || a >= 330 ? [taper[k] + taper[(k + 90) % 180]] : [])));
  out.push({ name: 'toc.faciolingual', zone: null, stat: 'mean', unit: 'deg', value: facial });
  out.push({ name: 'toc.mesiodistal', zone: null, stat: 'mean', unit: 'deg', value: pair(90) });
  out.push({ name: 'toc.mean', zone: null, stat: 'mean', unit: 'deg', value: mean(azimuths.slice(0, 90).map((_, k) => taper[k] + taper[k + 90])) });
  out.push({ name: 'draw.tilt', zone: null, stat: 'value', unit: 'deg', value: draw.tilt });
  out.push(...reductionTruth(t, envelope, origin, { finish, top, low }));
  return out;
}

interface Sample {
  readonly p: Vec3;
  readonly weight: number;
}

/** Depths over the occlusal zones and the wall thirds: the cut surface sampled from its formula, distances to the tooth's formula. */
function reductionTruth(t: Typodont, e: CrownEnvelope, o: Vec3, c: { finish: PolarCurve; top: PolarCurve; low: PolarCurve }): Truth[] {
  const out: Truth[] = [];
  const quantiles = (name: string, zone: string, samples: readonly Sample[]): void => {
    if (samples.length < 8) return;
    const d = samples.map((s) => distanceInside(t.target.inside, s.p));
    const [p05, median, p95] = weightedQuantiles(d, samples.map((s) => s.weight), [0.05, 0.5, 0.95]);
    for (const [stat, value] of [['p05', p05], ['median', median], ['p95', p95]] as const) out.push({ name, zone, stat, unit: 'mm', value });
  };
  const onTop = (x: number, y: number): Sample | null => {
    const z = e.topAt(x, y);
    const g = 1e-3;
    const dx = (e.topAt(x + g, y) - e.topAt(x - g, y)) / (2 * g);
    const dy = (e.topAt(x, y + g) - e.topAt(x, y - g)) / (2 * g);
    const slope = Math.hypot(dx, dy);
    // Walls and their rounded edge are not occlusal surface; nor is anything steeper than 60°.
    const edge = c.top.at(azimuthOf(x - o[0], y - o[1]));
    if (slope > Math.tan(Math.PI / 3) || Math.hypot(x - o[0], y - o[1]) > edge.r - e.recipe.edgeRadius) return null;
    return { p: [x, y, z], weight: Math.sqrt(1 + slope * slope) };
  };
  const grid = (x0: number, y0: number, reach: number, keep: (x: number, y: number) => boolean): Sample[] => {
    const found: Sample[] = [];
    for (let x = x0 - reach; x <= x0 + reach; x += 0.11)
      for (let y = y0 - reach; y <= y0 + reach; y += 0.11) {
        const s = keep(x, y) ? onTop(x, y) : null;
        if (s) found.push(s);
      }
    return found;
  };
  for (const cusp of t.target.cusps) quantiles('reduction.occlusal', cusp.name, grid(cusp.at[0], cusp.at[1], 1.25, (x, y) => Math.hypot(x - cusp.at[0], y - cusp.at[1]) <= 1.25));
  const groove = t.target.grooves.find((g) => g.name === 'central');
  if (groove) {
    const line = trimmed(groove.line, 0.1);
    quantiles('reduction.occlusal', 'central groove', grid(0, 0, 5, (x, y) => distanceToLine(line, x, y) <= 0.5));
  }
  for (const side of SIDES) {
    const centre = { facial: 0, mesial: 90, lingual: 180, distal: 270 }[side];
    for (const [third, from, to] of [['gingival third', 0, 1 / 3], ['mid third', 1 / 3, 2 / 3], ['outer third', 2 / 3, 1]] as const) {
      const samples: Sample[] = [];
      for (let k = 0; k < SAMPLES; k += 6) {
        const phi = (2 * Math.PI * k) / SAMPLES;
        const p = e.profile(phi);
        const dz = (p.wallTop - p.finish[1]) / 36;
        for (let i = 0; i < 36; i++) {
          const f = (i + 0.5) / 36;
          if (f < from || f >= to) continue;
          const z = p.finish[1] + f * (p.wallTop - p.finish[1]);
          const r = wallRadius(p.line, z);
          if (r === null) continue;
          const point: Vec3 = [r * Math.sin(phi), r * Math.cos(phi), z];
          if (!inSector(azimuthOf(point[0] - o[0], point[1] - o[1]), { centre, half: 45 })) continue;
          samples.push({ p: point, weight: r * dz });
        }
      }
      quantiles('reduction.axial', `${side} ${third}`, samples.filter((_, i) => i % 2 === 0));
    }
  }
  return out;
}

/** Radius of the cut profile at height z where it is steeper than 60°; null elsewhere. */
function wallRadius(line: readonly (readonly [number, number])[], z: number): number | null {
  for (let i = line.length - 1; i > 0; i--) {
    const [r1, z1] = line[i];
    const [r0, z0] = line[i - 1];
    if ((z1 - z) * (z0 - z) > 0 || z0 === z1) continue;
    if (Math.abs(z0 - z1) < Math.abs(r0 - r1) * Math.tan(Math.PI / 3)) return null;
    return r1 + ((z - z1) / (z0 - z1)) * (r0 - r1);
  }
  return null;
}
