// Teeth and preparations that the simulator did not make: level-set bodies cut by swept rings and prisms.
import Module from 'manifold-3d';
import type { KindName } from '#core/kinds/kinds.ts';
import { applyDirection, applyPoint, fromRotation, fromTranslation, type Matrix, multiply, transformPoints } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type MasterDescription, PART, prepareMaster } from '#core/master/master.ts';
import { makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { labelled } from '#core/simulate/solids.ts';
import { seeded } from '#core/statistics/random.ts';
import { leftHanded } from './scanner.ts';

const m3 = await Module();
m3.setup();
type Solid = InstanceType<typeof m3.Manifold>;

interface Form {
  readonly tooth: string;
  readonly md: number;
  readonly fl: number;
  readonly h: number;
  /** Tips and heights over the table; none for an incisor, which thins to an edge. */
  readonly cusps: readonly { name: string; role: 'functional' | 'non-functional'; x: number; y: number; up: number }[];
}

const cusp = (name: string, functional: boolean, x: number, y: number, up: number) =>
  ({ name, role: functional ? 'functional' : 'non-functional', x, y, up }) as const;

export const FORMS: Record<string, Form> = {
  molarLL: {
    tooth: '36',
    md: 11,
    fl: 10.2,
    h: 6.6,
    cusps: [
      cusp('MB', true, 2.4, 2.7, 1.5),
      cusp('DB', true, -2.2, 2.7, 1.4),
      cusp('ML', false, 2.4, -2.7, 1.8),
      cusp('DL', false, -2.2, -2.7, 1.7),
    ],
  },
  molarUR: {
    tooth: '17',
    md: 9.6,
    fl: 11,
    h: 6.4,
    cusps: [
      cusp('MB', false, 2.3, 3, 1.6),
      cusp('DB', false, -2.1, 3, 1.5),
      cusp('ML', true, 1.8, -2.9, 1.7),
      cusp('DL', true, -2.3, -2.9, 1.1),
    ],
  },
  premolarUL: { tooth: '25', md: 6.8, fl: 9, h: 7.2, cusps: [cusp('B', false, 0.1, 2.6, 1.9), cusp('L', true, 0.2, -2.5, 1.7)] },
  premolarLR: { tooth: '45', md: 7.2, fl: 8.2, h: 7, cusps: [cusp('B', true, 0, 2, 1.9), cusp('L', false, 0.3, -2.3, 1.3)] },
  canineUR: { tooth: '13', md: 7.6, fl: 7.8, h: 9.6, cusps: [cusp('C', true, 0, 0, 1.6)] },
  incisorUL: { tooth: '21', md: 8.6, fl: 7, h: 10.4, cusps: [] },
  incisorLR: { tooth: '41', md: 5.4, fl: 6, h: 8.8, cusps: [] },
  primaryMolar: {
    tooth: '75',
    md: 9.6,
    fl: 8.4,
    h: 4.9,
    cusps: [cusp('MB', true, 2.2, 1.9, 1), cusp('DB', true, -2, 1.9, 1), cusp('ML', false, 2.2, -1.9, 1.1), cusp('DL', false, -2, -1.9, 1)],
  },
};

const anterior = (f: Form) => ['1', '2', '3'].includes(f.tooth[1]);

/** Half widths of the cross-section at height z. */
function section(f: Form, z: number): { a: number; b: number; y: number } {
  const t = Math.max(-0.5, Math.min(1.1, z / f.h));
  const neck = 0.84 + 0.16 * Math.sin(Math.min(1, Math.max(0, (t + 0.25) / 0.8)) * Math.PI * 0.5);
  if (!anterior(f))
    return { a: (f.md / 2) * (neck - 0.05 * Math.max(0, t - 0.55)), b: (f.fl / 2) * (neck - 0.22 * Math.max(0, t - 0.45)), y: 0 };
  // Facial face nearly straight, lingual face falling away above the cingulum.
  const thick = (f.fl / 2) * (0.92 - 0.62 * Math.min(1, Math.max(0, (t - 0.18) / 0.75)) ** 0.8);
  return { a: (f.md / 2) * (0.78 + 0.22 * Math.min(1, Math.max(0, (t + 0.2) / 0.9))), b: thick, y: 0.55 * ((f.fl / 2) * 0.92 - thick) };
}

function top(f: Form, x: number, y: number): number {
  if (!anterior(f)) {
    let z = f.h - 1.9;
    for (const c of f.cusps) z += c.up * Math.exp(-((x - c.x) ** 2 + (y - c.y) ** 2) / 4.4);
    return z - 0.7 * Math.exp(-(y * y) / 0.5) * Math.exp(-((x / (0.33 * f.md)) ** 4));
  }
  return f.h - (f.cusps.length ? 1.7 * (Math.abs(x) / (f.md / 2)) : 0.25 * (x / (f.md / 2)) ** 2);
}

const SOFT = 9;
const smin = (p: number, q: number): number => -Math.log(Math.exp(-SOFT * p) + Math.exp(-SOFT * q)) / SOFT;

function inside(f: Form, x: number, y: number, z: number): number {
  const s = section(f, z);
  const n = 2.5;
  const rho = ((Math.abs(x) / s.a) ** n + (Math.abs(y - s.y) / s.b) ** n) ** (1 / n);
  return smin((1 - rho) * Math.min(s.a, s.b), (top(f, x, y) - z) * 0.8);
}

/** Where the ray at azimuth phi (radians) leaves the body at height z. */
function outer(f: Form, phi: number, z: number): number {
  let lo = 0;
  let hi = 9;
  for (let i = 0; i < 40; i++) {
    const r = (lo + hi) / 2;
    if (inside(f, r * Math.sin(phi), r * Math.cos(phi), z) > 0) lo = r;
    else hi = r;
  }
  return lo;
}

const body = (f: Form, edge: number): Solid =>
  m3.Manifold.levelSet(
    ([x, y, z]) => Math.min(inside(f, x, y, z), z + 5),
    { min: [-f.md * 0.7, -f.fl * 0.75, -5.2], max: [f.md * 0.7, f.fl * 0.75, f.h + 1.5] },
    edge,
  );

/** Gum line: high between the teeth. */
const gum = (x: number, y: number): number => -0.2 + 0.5 * Math.sin(Math.atan2(x, y)) ** 2 - 0.18 * Math.max(0, Math.hypot(x, y) - 4);

export interface CrownCut {
  readonly width: number;
  readonly taper: { readonly f: number; readonly m: number; readonly l: number; readonly d: number };
  readonly over: number;
  readonly down: number;
  readonly form: 'shoulder' | 'chamfer';
}

const around = (t: CrownCut['taper'], phi: number): number => {
  const c = Math.cos(phi);
  const s = Math.sin(phi);
  return (c > 0 ? t.f : t.l) * c * c + (s > 0 ? t.m : t.d) * s * s;
};

const lineHeight = (f: Form, phi: number, over: number): number => {
  let z = 0;
  for (let i = 0; i < 40; i++) {
    const r = outer(f, phi, z);
    z += 0.7 * (gum(r * Math.sin(phi), r * Math.cos(phi)) + over - z);
  }
  return z;
};

/** A closed body of rings: outside everything below the finish line, the stump above it. */
function envelope(f: Form, c: CrownCut): Solid {
  const turns = 480;
  const rows: ((k: number) => [number, number])[] = [];
  const zm = Array.from({ length: turns }, (_, k) => lineHeight(f, (2 * Math.PI * k) / turns, c.over));
  const foot = zm.map((z, k) => outer(f, (2 * Math.PI * k) / turns, z) - c.width);
  const lean = zm.map((_, k) => Math.tan((around(c.taper, (2 * Math.PI * k) / turns) * Math.PI) / 180));
  rows.push(() => [25, -12]);
  rows.push((k) => [25, zm[k]]);
  rows.push((k) => [foot[k] + c.width, zm[k]]);
  if (c.form === 'chamfer')
    for (let i = 1; i < 12; i++) {
      const a = (i / 12) * (Math.PI / 2);
      rows.push((k) => [foot[k] + c.width - c.width * Math.sin(a) * 0.999, zm[k] + c.width * (1 - Math.cos(a)) * 0.98]);
    }
  else rows.push((k) => [foot[k], zm[k]]);
  rows.push((k) => [foot[k] - lean[k] * (c.form === 'chamfer' ? c.width : 0.01), zm[k] + (c.form === 'chamfer' ? c.width : 0.01)]);
  rows.push((k) => [Math.max(0.3, foot[k] - lean[k] * (14 - zm[k])), 14]);
  const p: number[] = [];
  for (const row of rows)
    for (let k = 0; k < turns; k++) {
      const [r, z] = row(k);
      const a = (2 * Math.PI * k) / turns;
      p.push(r * Math.sin(a), r * Math.cos(a), z);
    }
  const t: number[] = [];
  for (let j = 0; j + 1 < rows.length; j++)
    for (let k = 0; k < turns; k++) {
      const n = (k + 1) % turns;
      t.push(j * turns + k, (j + 1) * turns + n, j * turns + n, j * turns + k, (j + 1) * turns + k, (j + 1) * turns + n);
    }
  const bottom = p.length / 3;
  p.push(0, 0, -12, 0, 0, 14);
  for (let k = 0; k < turns; k++) {
    const n = (k + 1) % turns;
    t.push(bottom, k, n, bottom + 1, (rows.length - 1) * turns + n, (rows.length - 1) * turns + k);
  }
  return new m3.Manifold(new m3.Mesh({ numProp: 3, vertProperties: Float32Array.from(p), triVerts: Uint32Array.from(t) }));
}

function cutCrown(target: Solid, f: Form, c: CrownCut): Solid {
  const low = target.translate([0, 0, -c.down]).add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.5 - 10]));
  return target.intersect(envelope(f, c)).intersect(low);
}

export interface OnlayCut {
  /** Which cusps are covered: +1 the facial ones, −1 the lingual ones. */
  readonly side: 1 | -1;
  readonly cover: CrownCut;
  readonly slot: CavityCut;
  readonly boxes: readonly NonNullable<CavityCut['box']>[];
}

/** The covered half as a crown, a slot and boxes through the middle. */
function cutOnlay(target: Solid, f: Form, c: OnlayCut): Solid {
  const half = m3.Manifold.cube([40, 20, 40], true).translate([0, c.side * 10.3, 0]);
  const low = target.translate([0, 0, -c.cover.down]).add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.5 - 10]));
  const covered = target.intersect(envelope(f, c.cover)).intersect(low).intersect(half);
  let out = cutCavity(target.subtract(half).add(covered), f, c.slot);
  for (const box of c.boxes) out = cutCavity(out, f, { ...c.slot, box });
  return out;
}

export interface PartialCut {
  readonly crown: CrownCut;
  /** y from which the facial plate is left standing, and how far it is lowered. */
  readonly plate: number;
  readonly plateDown: number;
  readonly grooves: readonly { readonly azimuth: number; readonly radius: number; readonly from: number; readonly lean: number }[];
  readonly pin: null | { readonly x: number; readonly y: number; readonly radius: number; readonly bottom: number; readonly ledge: number };
}

function cutPartial(target: Solid, f: Form, c: PartialCut): Solid {
  const front = m3.Manifold.cube([40, 20, 60], true).translate([0, c.plate + 10, 0]);
  // Widened, so that only the plate's top is lowered and its face stays uncut.
  const low = target
    .scale([1.4, 1.4, 1])
    .translate([0, 0, -c.plateDown])
    .add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.45 - 10]));
  let out = cutCrown(target, f, c.crown).add(target.intersect(front).intersect(low));
  for (const g of c.grooves) {
    const a = (g.azimuth * Math.PI) / 180;
    const r = outer(f, a, lineHeight(f, a, c.crown.over)) - c.crown.width - 0.1;
    const cutter = m3.Manifold.cylinder(12, g.radius, g.radius, 64)
      .rotate([0, -g.lean, 0])
      .translate([r * Math.sin(a), r * Math.cos(a), g.from]);
    out = out.subtract(cutter);
  }
  if (c.pin) {
    const { x, y, radius, bottom, ledge } = c.pin;
    out = out
      .subtract(m3.Manifold.cube([1.2, 1.2, 12], true).translate([x, y, ledge + 6]))
      .subtract(m3.Manifold.cylinder(12, radius, radius, 48).translate([x, y, bottom]));
  }
  return out;
}

export interface CavityCut {
  /** Half length along x to mesial and distal; NaN side open through a box. */
  readonly mesial: number;
  readonly distal: number;
  readonly width: number;
  readonly floor: number;
  /** + converging occlusally. */
  readonly lean: number;
  readonly box: null | { side: 1 | -1; width: number; floor: number; axial: number; lean: number };
}

/** A prism with four leaning walls: x0..x1 by ±w at z0, leaning by degrees up to z1. */
function prism(x0: number, x1: number, w: number, z0: number, z1: number, lean: number): Solid {
  const k = Math.tan((lean * Math.PI) / 180) * (z1 - z0);
  return m3.Manifold.hull([
    [x0, -w, z0],
    [x1, -w, z0],
    [x1, w, z0],
    [x0, w, z0],
    [x0 + k, -w + k, z1],
    [x1 - k, -w + k, z1],
    [x1 - k, w - k, z1],
    [x0 + k, w - k, z1],
  ]);
}

function cutCavity(target: Solid, f: Form, c: CavityCut): Solid {
  // Widths are given at the floor of the slot.
  let out = target.subtract(prism(-c.distal, c.mesial, c.width / 2, c.floor, f.h + 2, c.lean));
  if (c.box) {
    const far = c.box.side * (f.md * 0.5 + 3);
    const x = [c.box.side * c.box.axial, far].sort((a, b) => a - b);
    out = out.subtract(prism(x[0], x[1], c.box.width / 2, c.box.floor, f.h + 2, c.box.lean));
  }
  return out;
}

const mesh = (s: Solid, labels: Map<number, number>) => labelled(s as never, labels);

export interface Outsider {
  readonly name: string;
  readonly form: string;
  readonly kind: KindName;
  readonly crown?: CrownCut;
  readonly cavity?: CavityCut;
  readonly onlay?: OnlayCut;
  readonly partial?: PartialCut;
}

/** Master and scan of a case; `edge` is the bodies' own fineness, `fine` that of the scan (mm). */
export function build(o: Outsider, seed: number, noise = 0.02, edge = 0.16, fine = 0.14) {
  const f = FORMS[o.form];
  const random = seeded(seed);
  const target = body(f, edge).asOriginal();
  const apart = f.md + 0.06;
  const labels = new Map<number, number>([[target.originalID(), PART.target]]);
  const beside = ([1, -1] as const).map((side) => {
    const s = body(
      { ...f, md: f.md * 0.99, fl: f.fl * 1.03, h: f.h * 0.98, cusps: f.cusps.map((c) => ({ ...c, x: c.x * 0.9 })) },
      edge * 1.5,
    )
      .rotate([0, 0, -4 * side])
      .translate([side * apart, -0.3, 0])
      .asOriginal();
    labels.set(s.originalID(), side === 1 ? PART.mesial : PART.distal);
    return s;
  });
  const g = m3.Manifold.levelSet(
    ([x, y, z]) => {
      const near = [0, apart, -apart].reduce((b, c) => (Math.abs(x - c) < Math.abs(x - b) ? c : b), 0);
      return Math.min(gum(x - near, y) - z, z + 6, 1.55 * f.md - Math.abs(x), f.fl * 0.5 + 4 - Math.abs(y));
    },
    { min: [-1.6 * f.md, -f.fl * 0.5 - 5, -6.2], max: [1.6 * f.md, f.fl * 0.5 + 5, 2] },
    0.3,
  ).asOriginal();
  labels.set(g.originalID(), PART.gingiva);
  const arch = mesh(target.add(beside[0]).add(beside[1]).add(g), labels);
  const cut = o.onlay
    ? cutOnlay(target, f, o.onlay)
    : o.partial
      ? cutPartial(target, f, o.partial)
      : o.crown
        ? cutCrown(target, f, o.crown)
        : cutCavity(target, f, o.cavity as CavityCut);
  const scene = mesh(cut.add(beside[0]).add(beside[1]).add(g).refineToLength(fine), labels);
  const s = leftHanded(f.tooth) ? -1 : 1;
  const flip: Matrix = [1, 0, 0, 0, 0, s, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const rigid = multiply(fromTranslation([30, -12, 55]), fromRotation([0.3, 0.8, -0.5], 2.1));
  const file = multiply(rigid, flip);
  const p = (v: readonly number[]): Vec3 => applyPoint(file, v as unknown as Vec3);
  const wound = (t: Uint32Array) => (s < 0 ? t.map((_, i) => t[i - (i % 3) + [0, 2, 1][i % 3]]) : t);
  const parts = new Uint8Array(arch.positions.length / 3);
  for (const tooth of [false, true])
    for (let i = 0; i < arch.labels.length; i++)
      if ((arch.labels[i] !== PART.gingiva) === tooth) for (let k = 0; k < 3; k++) parts[arch.triangles[3 * i + k]] = arch.labels[i];
  const gx = f.md * 0.33;
  const description: MasterDescription = {
    name: `Outsider ${o.form}`,
    tooth: f.tooth,
    axis: applyDirection(file, [0, 0, 1]),
    mesial: applyDirection(file, [1, 0, 0]),
    facial: applyDirection(file, [0, 1, 0]),
    cusps: f.cusps.map((c) => ({ name: c.name, role: c.role, at: p([c.x, c.y, surfaceTop(f, c.x, c.y)]) })),
    grooves: anterior(f)
      ? []
      : [{ name: 'central', rank: 'primary', line: [-gx, -gx / 2, 0, gx / 2, gx].map((x) => p([x, 0, surfaceTop(f, x, 0)])) }],
    ridges: anterior(f)
      ? { mesial: [], distal: [], oblique: [] }
      : {
          mesial: [-1.2, 0, 1.2].map((y) => p([f.md * 0.42, y, surfaceTop(f, f.md * 0.42, y)])),
          distal: [-1.2, 0, 1.2].map((y) => p([-f.md * 0.42, y, surfaceTop(f, -f.md * 0.42, y)])),
          oblique: [],
        },
    contacts: { mesial: p([f.md / 2, 0, f.h * 0.6]), distal: p([-f.md / 2, 0, f.h * 0.6]) },
    gingivalMargin: Array.from({ length: 24 }, (_, k) => {
      const a = (2 * Math.PI * k) / 24;
      const z = lineHeight(f, a, 0);
      const r = outer(f, a, z);
      return p([r * Math.sin(a), r * Math.cos(a), z]);
    }),
  };
  const master = prepareMaster(description, {
    arch: { mesh: makeMesh('master', transformPoints(file, arch.positions), wound(arch.triangles)), parts },
    opposing: null,
    dej: null,
    caries: null,
    pulp: null,
  });
  // The scanner sees no bottom and cuts off its border.
  const kept: number[] = [];
  for (let i = 0; i < scene.triangles.length; i += 3) {
    const v = scene.triangles[i];
    if (scene.positions[3 * v + 2] > -3 && Math.abs(scene.positions[3 * v]) < 1.42 * f.md)
      kept.push(scene.triangles[i], scene.triangles[i + 1], scene.triangles[i + 2]);
  }
  const map = new Map<number, number>();
  const pos: number[] = [];
  const tri = Uint32Array.from(kept, (v) => {
    let q = map.get(v);
    if (q === undefined) {
      q = map.size;
      map.set(v, q);
      pos.push(scene.positions[3 * v], scene.positions[3 * v + 1], scene.positions[3 * v + 2]);
    }
    return q;
  });
  const bare = makeMesh('tooth', Float64Array.from(pos), tri);
  const { normals } = vertexNormals(bare);
  for (let i = 0; i < pos.length / 3; i++) {
    const d = noise * random.normal();
    for (let k = 0; k < 3; k++) bare.positions[3 * i + k] += d * normals[3 * i + k];
  }
  const pose = multiply(
    fromTranslation([random.between(-30, 30), 5, 8]),
    fromRotation([random.normal(), random.normal(), random.normal()], random.between(0, 6)),
  );
  const toScan = multiply(multiply(pose, rigid), flip);
  const scan = makeMesh('scanner', transformPoints(toScan, bare.positions), wound(bare.triangles));
  // Master file frame to scanner frame: the file's own way back first.
  return { form: f, master, scan, toScan, file, pose };
}

const surfaceTop = (f: Form, x: number, y: number): number => {
  let lo = 0;
  let hi = 14;
  for (let i = 0; i < 40; i++) {
    const z = (lo + hi) / 2;
    if (inside(f, x, y, z) > 0) lo = z;
    else hi = z;
  }
  return lo;
};

const crown = (over: Partial<CrownCut> = {}): CrownCut => ({
  width: 0.8,
  taper: { f: 6, m: 4, l: 6, d: 5 },
  over: 0.6,
  down: 1.4,
  form: 'shoulder',
  ...over,
});

export const CASES: readonly Outsider[] = [
  { name: 'molar LL shoulder', form: 'molarLL', kind: 'crown', crown: crown() },
  { name: 'molar UR chamfer', form: 'molarUR', kind: 'crown', crown: crown({ form: 'chamfer', width: 0.5, over: 0.4 }) },
  { name: 'premolar UL shoulder', form: 'premolarUL', kind: 'crown', crown: crown({ width: 1 }) },
  { name: 'premolar LR chamfer', form: 'premolarLR', kind: 'crown', crown: crown({ form: 'chamfer', width: 0.6 }) },
  { name: 'canine UR', form: 'canineUR', kind: 'crown', crown: crown({ width: 0.7, down: 1.8 }) },
  { name: 'incisor UL', form: 'incisorUL', kind: 'crown', crown: crown({ width: 0.7, down: 1.8 }) },
  { name: 'incisor LR', form: 'incisorLR', kind: 'crown', crown: crown({ width: 0.5, down: 1.5 }) },
  { name: 'primary molar', form: 'primaryMolar', kind: 'crown', crown: crown({ width: 0.4, down: 1, over: 0.3 }) },
  { name: 'undercut molar', form: 'molarUR', kind: 'crown', crown: crown({ taper: { f: 6, m: 4, l: 6, d: -4 } }) },
  {
    name: 'class I molar',
    form: 'molarLL',
    kind: 'cavity',
    cavity: { mesial: 2.8, distal: 2.6, width: 1.6, floor: 3.0, lean: 3, box: null },
  },
  {
    name: 'DO premolar',
    form: 'premolarLR',
    kind: 'cavity',
    cavity: { mesial: 1.6, distal: 4, width: 1.7, floor: 3.4, lean: 2, box: { side: -1, width: 3.4, floor: 1.6, axial: 2.2, lean: 2 } },
  },
  {
    name: 'onlay molar',
    form: 'molarLL',
    kind: 'onlay',
    onlay: {
      side: 1,
      cover: crown({ width: 1, over: 2.4, down: 1.8 }),
      slot: { mesial: 6, distal: 6, width: 2.4, floor: 2.9, lean: -4, box: null },
      boxes: [
        { side: 1, width: 4, floor: 1.4, axial: 3.6, lean: -4 },
        { side: -1, width: 4, floor: 1.5, axial: 3.5, lean: -4 },
      ],
    },
  },
  {
    name: 'onlay lingual',
    form: 'molarUR',
    kind: 'onlay',
    onlay: {
      side: -1,
      cover: crown({ width: 0.8, over: 2.2, down: 1.6 }),
      slot: { mesial: 6, distal: 2, width: 2.4, floor: 2.9, lean: -5, box: null },
      boxes: [{ side: 1, width: 4, floor: 1.4, axial: 3.2, lean: -5 }],
    },
  },
  {
    name: 'partial molar',
    form: 'molarUR',
    kind: 'partial',
    partial: {
      crown: crown({ form: 'chamfer', width: 0.5, over: 0.6, down: 1.1 }),
      plate: 3.1,
      plateDown: 1,
      grooves: [
        { azimuth: 72, radius: 0.5, from: 1.5, lean: 0 },
        { azimuth: 288, radius: 0.5, from: 1.5, lean: 4 },
      ],
      pin: null,
    },
  },
  {
    name: 'partial canine',
    form: 'canineUR',
    kind: 'partial',
    partial: {
      crown: crown({ form: 'chamfer', width: 0.5, over: 0.6, down: 0.8 }),
      plate: 1.2,
      plateDown: 0.6,
      grooves: [
        { azimuth: 86, radius: 0.45, from: 2, lean: 0 },
        { azimuth: 274, radius: 0.45, from: 2, lean: 0 },
      ],
      pin: { x: 0.2, y: -1.5, radius: 0.35, bottom: 1.2, ledge: 3.2 },
    },
  },
  {
    name: 'MO molar',
    form: 'molarUR',
    kind: 'cavity',
    cavity: { mesial: 6, distal: 2, width: 1.8, floor: 2.9, lean: -4, box: { side: 1, width: 3.8, floor: 1.3, axial: 3.5, lean: -4 } },
  },
];
