// The same preparation written otherwise: readings should not change.
import { applyDirection, fromRotation, fromTranslation, type Matrix, multiply } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type Master, type MasterDescription, movedLandmarks, prepareMaster } from '#core/master/master.ts';
import { intoFrame, type Mesh, makeMesh, triangleCount, vertexCount } from '#core/mesh/mesh.ts';
import { seeded } from '#core/statistics/random.ts';

/** A master as its files hold it. */
export interface WrittenMaster {
  readonly description: MasterDescription;
  readonly arch: { readonly mesh: Mesh<'master'>; readonly parts: Uint8Array };
  readonly opposing: Mesh<'master'> | null;
  readonly dej: Mesh<'master'> | null;
  readonly caries: Mesh<'master'> | null;
  readonly pulp: Mesh<'master'> | null;
}

/** A scan and its master. */
export interface Written extends WrittenMaster {
  readonly scan: Mesh<'scanner'>;
}

export function writtenMaster(m: Master): WrittenMaster {
  const back = (s: Master['pulp']) => s && intoFrame(s.mesh, m.fromTooth, 'master');
  return {
    description: m.description,
    arch: { mesh: intoFrame(m.whole.mesh, m.fromTooth, 'master'), parts: m.wholeParts },
    opposing: back(m.opposing),
    dej: back(m.dej),
    caries: back(m.caries),
    pulp: back(m.pulp),
  };
}

export const writtenOf = (scan: Mesh<'scanner'>, m: Master): Written => ({ scan, ...writtenMaster(m) });

export const masterOf = ({ description, ...meshes }: WrittenMaster): Master => prepareMaster(description, meshes);

interface Labelled<F extends 'scanner' | 'master'> {
  readonly mesh: Mesh<F>;
  readonly parts: Uint8Array;
}

function shuffled(count: number, seed: number): Uint32Array {
  const random = seeded(seed);
  const out = Uint32Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const j = Math.floor(random.next() * (i + 1));
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}

/** Points and triangles in another order, and each triangle from another of its corners. */
function reordered<F extends 'scanner' | 'master'>({ mesh, parts }: Labelled<F>, seed: number): Labelled<F> {
  const place = shuffled(vertexCount(mesh), seed);
  const positions = new Float64Array(mesh.positions.length);
  const labels = new Uint8Array(parts.length);
  place.forEach((to, v) => {
    positions.set(mesh.positions.subarray(3 * v, 3 * v + 3), 3 * to);
    labels[to] = parts[v];
  });
  const triangles = new Uint32Array(mesh.triangles.length);
  shuffled(triangleCount(mesh), seed + 1).forEach((to, f) => {
    for (let k = 0; k < 3; k++) triangles[3 * to + k] = place[mesh.triangles[3 * f + ((k + f) % 3)]];
  });
  return { mesh: makeMesh(mesh.frame, positions, triangles) as Mesh<F>, parts: labels };
}

/** Every triangle in four, by the middles of its sides: the same surface. */
function inFour<F extends 'scanner' | 'master'>({ mesh, parts }: Labelled<F>): Labelled<F> {
  const positions = [...mesh.positions];
  const labels = [...parts];
  const middles = new Map<number, number>();
  const count = vertexCount(mesh);
  const middle = (a: number, b: number): number => {
    const key = Math.min(a, b) * count + Math.max(a, b);
    let v = middles.get(key);
    if (v === undefined) {
      v = labels.length;
      for (let k = 0; k < 3; k++) positions.push((mesh.positions[3 * a + k] + mesh.positions[3 * b + k]) / 2);
      labels.push(Math.min(parts[a], parts[b]));
      middles.set(key, v);
    }
    return v;
  };
  const triangles: number[] = [];
  for (let f = 0; f < mesh.triangles.length; f += 3) {
    const [a, b, c] = mesh.triangles.subarray(f, f + 3);
    const [d, e, g] = [middle(a, b), middle(b, c), middle(c, a)];
    triangles.push(a, d, g, d, b, e, g, e, c, d, e, g);
  }
  return {
    mesh: makeMesh(mesh.frame, Float64Array.from(positions), Uint32Array.from(triangles)) as Mesh<F>,
    parts: Uint8Array.from(labels),
  };
}

const withScan = (w: Written, change: (l: Labelled<'scanner'>) => Labelled<'scanner'>): Written => ({
  ...w,
  scan: change({ mesh: w.scan, parts: new Uint8Array(vertexCount(w.scan)) }).mesh,
});

/** The master's file in another frame; a reflecting one makes the tooth that of the other side. */
function inFrame(w: Written, matrix: Matrix): Written {
  const q = (v: Vec3): Vec3 => applyDirection(matrix, v);
  const d = w.description;
  const moved = (m: Mesh<'master'> | null) => m && intoFrame(m, matrix, 'master');
  return {
    ...w,
    description: { ...d, ...movedLandmarks(d, matrix), axis: q(d.axis), mesial: q(d.mesial), facial: q(d.facial) },
    arch: { ...w.arch, mesh: intoFrame(w.arch.mesh, matrix, 'master') },
    opposing: moved(w.opposing),
    dej: moved(w.dej),
    caries: moved(w.caries),
    pulp: moved(w.pulp),
  };
}

const REFLECTION: Matrix = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
/** Quadrants and those across the middle line. */
const ACROSS: Readonly<Record<string, string>> = { 1: '2', 2: '1', 3: '4', 4: '3', 5: '6', 6: '5', 7: '8', 8: '7' };
const FAR = [900, -700, 400];

export const OTHERWISE: Readonly<Record<string, (w: Written) => Written>> = {
  'another order of points and triangles': (w) => ({
    ...withScan(w, (l) => reordered(l, 4)),
    arch: reordered(w.arch, 3),
  }),
  'the scan with every triangle in four': (w) => withScan(w, inFour),
  'the master with every triangle in four': (w) => ({ ...w, arch: inFour(w.arch) }),
  'the master in another frame': (w) => inFrame(w, multiply(fromTranslation([140, -80, 55]), fromRotation([0.4, -0.7, 0.6], 2.2))),
  'the other side of the mouth': (w) => {
    const m = inFrame(w, REFLECTION);
    const { tooth } = w.description;
    return { ...m, scan: intoFrame(w.scan, REFLECTION, 'scanner'), description: { ...m.description, tooth: ACROSS[tooth[0]] + tooth[1] } };
  },
  'a scan far from the origin, in single precision': (w) => ({
    ...w,
    scan: makeMesh(
      'scanner',
      Float64Array.from(w.scan.positions, (x, i) => Math.fround(x + FAR[i % 3])),
      w.scan.triangles,
    ),
  }),
  'axes of other lengths': ({ description: d, ...w }) => ({
    ...w,
    description: {
      ...d,
      axis: d.axis.map((x) => 7 * x) as unknown as Vec3,
      mesial: d.mesial.map((x, i) => 0.2 * (x + 0.3 * d.axis[i])) as unknown as Vec3,
      facial: d.facial.map((x) => 3 * x) as unknown as Vec3,
    },
  }),
};
