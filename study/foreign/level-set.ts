// Teeth and preparations that the simulator did not make: level-set bodies cut by swept rings and prisms.
import type { KindName } from '#core/kinds/kinds.ts';
import { applyDirection, applyPoint, fromRotation, fromTranslation, type Matrix, multiply, transformPoints } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type MasterDescription, PART, prepareMaster } from '#core/master/master.ts';
import { makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { labelled } from '#core/simulate/solids.ts';
import { seeded } from '#core/statistics/random.ts';
import { m3, type Solid } from './bodies.ts';
import {
  type CavityCut,
  type CrownCut,
  cutCavity,
  cutCrown,
  cutOnlay,
  cutPartial,
  type OnlayCut,
  type PartialCut,
} from './level-set-cuts.ts';
import { anterior, body, FORMS, gum, lineHeight, outer, surfaceTop } from './level-set-tooth.ts';
import { leftHanded } from './scanner.ts';

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
