import {
  applyDirection,
  applyPoint,
  fromRotation,
  fromTranslation,
  IDENTITY,
  type Matrix,
  multiply,
  transformPoints,
} from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type MasterDescription, prepareMaster } from '#core/master/master.ts';
import { makeMesh, vertexAdjacency, vertexNormals } from '#core/mesh/mesh.ts';
import { seeded } from '#core/statistics/random.ts';
import type { ScanOptions } from './case.ts';

/** A surface with one part label per vertex, in the tooth's own right-handed frame: +z occlusal, +x mesial, +y facial. */
export interface Sheet {
  readonly positions: number[];
  readonly triangles: number[];
  readonly parts: number[];
}

export const emptySheet = (): Sheet => ({ positions: [], triangles: [], parts: [] });

/** Quadrants in which the tooth's frame is left-handed in the file: worked out from facial × mesial, not taken from the core. */
export const leftHanded = (tooth: string): boolean => {
  const upper = ['1', '2', '5', '6'].includes(tooth[0]);
  const right = ['1', '4', '5', '8'].includes(tooth[0]);
  // Seen from occlusal: on an upper right tooth facial is up and mesial to the right; upper left, lower right mirror it.
  return upper !== right;
};

interface Landmarks {
  readonly cusps: readonly { readonly name: string; readonly role: 'functional' | 'non-functional'; readonly at: Vec3 }[];
  readonly groove: readonly Vec3[];
  readonly mesialRidge: readonly Vec3[];
  readonly distalRidge: readonly Vec3[];
  readonly mesialContact: Vec3;
  readonly distalContact: Vec3;
  readonly gingivalMargin: readonly Vec3[];
  readonly neighbourCusps?: { readonly mesial: readonly Vec3[]; readonly distal: readonly Vec3[] };
  readonly cej?: readonly Vec3[];
  /** Long axes of opposing teeth by their number, pointing occlusally. */
  readonly opposingAxes?: Readonly<Record<string, Vec3>>;
}

/** Where the master's file lies: turned, moved, and turned over for left-handed quadrants. */
export function fileFrameOf(tooth: string): { file: Matrix; turnedOver: boolean } {
  const turnedOver = leftHanded(tooth);
  const flip: Matrix = [1, 0, 0, 0, 0, turnedOver ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const rigid = multiply(fromTranslation([30, -12, 55]), fromRotation([0.3, 0.8, -0.5], 2.1));
  return { file: multiply(rigid, flip), turnedOver };
}

const wound = (t: readonly number[], turnedOver: boolean): Uint32Array =>
  Uint32Array.from(t, (_, i) => (turnedOver ? t[i - (i % 3) + [0, 2, 1][i % 3]] : t[i]));

/** What a master may have besides its arch: the dentine's surface, decay, the pulp, and what bites against it. */
export interface Beside {
  readonly dej?: Sheet;
  readonly caries?: Sheet;
  readonly pulp?: Sheet;
  readonly opposing?: Sheet;
}

export function foreignMaster(name: string, tooth: string, sheet: Sheet, marks: Landmarks, beside: Beside = {}) {
  const { file, turnedOver } = fileFrameOf(tooth);
  const p = (v: Vec3): Vec3 => applyPoint(file, v);
  const description: MasterDescription = {
    name,
    tooth,
    axis: applyDirection(file, [0, 0, 1]),
    mesial: applyDirection(file, [1, 0, 0]),
    facial: applyDirection(file, [0, 1, 0]),
    cusps: marks.cusps.map((c) => ({ ...c, at: p(c.at) })),
    grooves: marks.groove.length ? [{ name: 'central', rank: 'primary', line: marks.groove.map(p) }] : [],
    ridges: { mesial: marks.mesialRidge.map(p), distal: marks.distalRidge.map(p), oblique: [] },
    contacts: { mesial: p(marks.mesialContact), distal: p(marks.distalContact) },
    gingivalMargin: marks.gingivalMargin.map(p),
    ...(marks.neighbourCusps && {
      neighbourCusps: { mesial: marks.neighbourCusps.mesial.map(p), distal: marks.neighbourCusps.distal.map(p) },
    }),
    ...(marks.cej && { cej: marks.cej.map(p) }),
    ...(marks.opposingAxes && {
      opposingAxes: Object.fromEntries(Object.entries(marks.opposingAxes).map(([tooth, axis]) => [tooth, applyDirection(file, axis)])),
    }),
  };
  const placed = (of: Sheet) => makeMesh('master', transformPoints(file, Float64Array.from(of.positions)), wound(of.triangles, turnedOver));
  return prepareMaster(description, {
    arch: { mesh: placed(sheet), parts: Uint8Array.from(sheet.parts) },
    opposing: beside.opposing ? placed(beside.opposing) : null,
    dej: beside.dej ? placed(beside.dej) : null,
    caries: beside.caries ? placed(beside.caries) : null,
    pulp: beside.pulp ? placed(beside.pulp) : null,
  });
}

/** The scan of a surface: border cut off, points moved along their normals, defects, any pose. */
export function scanOf(tooth: string, sheet: Sheet, o: ScanOptions) {
  const { file, turnedOver } = fileFrameOf(tooth);
  const random = seeded(o.seed);
  const positions = Float64Array.from(sheet.positions);
  const bare = makeMesh('tooth', positions, Uint32Array.from(sheet.triangles));
  const adjacency = vertexAdjacency(bare);
  const n = positions.length / 3;
  const averaged = (values: Float64Array): Float64Array =>
    values.map((own, v) => {
      let s = 0;
      const count = adjacency.start[v + 1] - adjacency.start[v];
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) s += values[adjacency.list[i]];
      return count ? 0.5 * own + (0.5 * s) / count : own;
    });
  for (let pass = 0; pass < o.blunt; pass++)
    for (const k of [0, 1, 2]) {
      const axis = averaged(Float64Array.from({ length: n }, (_, v) => positions[3 * v + k]));
      for (let v = 0; v < n; v++) positions[3 * v + k] = axis[v];
    }
  const { normals } = vertexNormals(bare);
  let offsets = Float64Array.from({ length: n }, () => random.normal());
  for (let pass = 0; pass < o.correlation; pass++) offsets = Float64Array.from(averaged(offsets));
  const rms = Math.sqrt(offsets.reduce((s, v) => s + v * v, 0) / n) || 1;
  if (o.defects.includes('spikes'))
    for (let i = 0; i < n / 4000; i++) offsets[Math.floor(random.next() * n)] = (random.next() < 0.5 ? -8 : 8) * rms;
  for (let v = 0; v < n; v++) for (let k = 0; k < 3; k++) positions[3 * v + k] += ((o.noise * offsets[v]) / rms) * normals[3 * v + k];
  if (o.defects.includes('step')) for (let v = 0; v < n; v++) if (positions[3 * v] > 2.2) positions[3 * v + 2] += 0.025;
  const soup = withDefects(positions, sheet.triangles, o, random);
  const turn = fromRotation([random.normal(), random.normal(), random.normal()], random.between(0, 6));
  const pose = multiply(fromTranslation([random.between(-30, 30), 5, 8]), turn);
  const resize: Matrix = o.scale === 1 ? IDENTITY : [o.scale, 0, 0, 0, 0, o.scale, 0, 0, 0, 0, o.scale, 0, 0, 0, 0, 1];
  const mirror: Matrix = o.mirrored ? [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] : IDENTITY;
  const all = multiply(multiply(multiply(resize, mirror), pose), file);
  const scan = makeMesh('scanner', transformPoints(all, soup.positions), wound(soup.triangles, turnedOver !== o.mirrored));
  return { scan, pose };
}

function withDefects(positions: Float64Array, all: readonly number[], o: ScanOptions, random: ReturnType<typeof seeded>) {
  const p = Array.from(positions);
  let triangles = [...all];
  const near = (v: number, c: readonly number[], r: number): boolean =>
    Math.hypot(p[3 * v] - c[0], p[3 * v + 1] - c[1], p[3 * v + 2] - c[2]) < r;
  if (o.defects.includes('pinholes')) {
    const holes = Array.from({ length: 14 }, () => {
      const v = Math.floor(random.next() * (p.length / 3));
      return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    });
    triangles = kept(triangles, (v) => !holes.some((h) => near(v, h, 0.16)));
  }
  if (o.defects.includes('crop')) triangles = kept(triangles, (v) => Math.abs(p[3 * v]) < 8.4);
  if (o.defects.includes('turned'))
    for (let f = 0; f < triangles.length; f += 3)
      if (random.next() < 0.002) [triangles[f + 1], triangles[f + 2]] = [triangles[f + 2], triangles[f + 1]];
  if (o.defects.includes('doubled')) {
    // A second pass over one side, 30 µm off.
    const twice = triangles.filter((_, i) => p[3 * triangles[i - (i % 3)]] < -3.4);
    const copy = new Map<number, number>();
    for (const v of twice)
      if (!copy.has(v)) {
        copy.set(v, p.length / 3);
        p.push(p[3 * v], p[3 * v + 1], p[3 * v + 2] + 0.03);
      }
    triangles.push(...twice.map((v) => copy.get(v) as number));
  }
  if (o.defects.includes('debris'))
    for (let k = 0; k < 30; k++) {
      const v = Math.floor(random.next() * (positions.length / 3));
      const c = [p[3 * v] + random.between(-1, 1), p[3 * v + 1] + random.between(-1, 1), p[3 * v + 2] + random.between(0.4, 2)];
      const first = p.length / 3;
      for (let j = 0; j < 3; j++)
        p.push(c[0] + random.between(-0.1, 0.1), c[1] + random.between(-0.1, 0.1), c[2] + random.between(-0.1, 0.1));
      triangles.push(first, first + 1, first + 2);
    }
  return compact(p, triangles);
}

const kept = (t: readonly number[], keep: (v: number) => boolean): number[] => {
  const out: number[] = [];
  for (let f = 0; f < t.length; f += 3) if (keep(t[f]) && keep(t[f + 1]) && keep(t[f + 2])) out.push(t[f], t[f + 1], t[f + 2]);
  return out;
};

function compact(p: readonly number[], t: readonly number[]) {
  const map = new Map<number, number>();
  const positions: number[] = [];
  const triangles = t.map((v) => {
    let q = map.get(v);
    if (q === undefined) {
      q = map.size;
      map.set(v, q);
      positions.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    }
    return q;
  });
  return { positions: Float64Array.from(positions), triangles };
}
