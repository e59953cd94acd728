import type { Alignment } from '#core/align/align.ts';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { type Master, type MasterDescription, type MasterMeshes, prepareMaster } from '#core/master/master.ts';
import { type Mesh, makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { seeded } from '#core/statistics/random.ts';
import { along, plate, revolve } from './shapes.ts';

/** What was made once for the tests of a worker: nothing changes a master. */
const kept = new Map<string, Master>();
function once(key: string, make: () => Master): Master {
  const master = kept.get(key) ?? make();
  kept.set(key, master);
  return master;
}

/** A tooth that is a cylinder of radius 5 and height 7 over a gingival margin at z = 0, standing in nothing else. */
export const cylinderMaster = (change: { tooth?: string; opposingAt?: number } = {}): Master =>
  once(JSON.stringify(change), () => makeCylinder(change));

/** What that master is made of. */
export function cylinderFiles({ tooth = '47', height = 7, opposingAt }: { tooth?: string; height?: number; opposingAt?: number }): {
  description: MasterDescription;
  meshes: MasterMeshes;
} {
  const arch = revolve(
    along([
      [0, height],
      [5, height],
      [5, -1.5],
    ]),
  );
  const ring = Array.from({ length: 72 }, (_, k) => [5 * Math.sin((k * Math.PI) / 36), 5 * Math.cos((k * Math.PI) / 36), 0] as const);
  return {
    description: {
      name: 'Cylinder',
      tooth,
      axis: [0, 0, 1],
      mesial: [1, 0, 0],
      facial: [0, 1, 0],
      cusps: [{ name: 'MB', role: 'functional', at: [2, 2, height] }],
      grooves: [
        {
          name: 'central',
          rank: 'primary',
          line: [
            [-3, 0, height],
            [3, 0, height],
          ],
        },
      ],
      ridges: {
        mesial: [
          [4, -1, height],
          [4, 1, height],
        ],
        distal: [
          [-4, -1, height],
          [-4, 1, height],
        ],
        oblique: [],
      },
      contacts: { mesial: null, distal: null },
      gingivalMargin: ring,
    },
    meshes: {
      arch: { mesh: arch, parts: new Uint8Array(arch.positions.length / 3).fill(1) },
      opposing: opposingAt === undefined ? null : facingDown(plate(9, opposingAt)),
      dej: null,
      caries: null,
      pulp: null,
    },
  };
}

function makeCylinder(change: { tooth?: string; opposingAt?: number }): Master {
  const { description, meshes } = cylinderFiles(change);
  return prepareMaster(description, meshes);
}

const facingDown = (m: Mesh<'tooth'>): Mesh<'tooth'> => makeMesh('tooth', m.positions, m.triangles.slice().reverse());

/** mm between points along a profile, and half planes round the axis: as fine as a good scan, or as coarse as will do. */
const FINE = { step: 0.1, around: 300 };
export const COARSE = { step: 0.15, around: 190 };

/** Any stump of revolution, from its profile's corners in (r, z). */
export const stump = (corners: readonly (readonly [number, number])[], of = FINE): Mesh<'tooth'> =>
  revolve(along(corners, of.step), of.around);

/** A scan that already stands in the tooth frame: the measures alone are under test. */
export function placed(scan: Mesh<'tooth'>): Alignment {
  return {
    matrix: IDENTITY,
    pose: IDENTITY,
    scan,
    rms: 0.005,
    noise: 0.005,
    stableArea: 100,
    spread: 1,
    pointError: 0.001,
    size: null,
    turnError: 0.0001,
  };
}

/** Frustum on a shoulder: finish line at z = 1, floor `width` wide, wall leaning `lean` degrees, top cut flat at z = 5. */
export function frustum(width: number, lean: number, tipX = 0, of = FINE): Mesh<'tooth'> {
  const t = Math.tan((lean * Math.PI) / 180);
  const foot = 5 - width;
  const m = stump(
    [
      [0, 5],
      [foot - 4 * t, 5],
      [foot, 1],
      [5, 1],
      [5, -1.5],
    ],
    of,
  );
  if (tipX === 0) return m;
  // Sheared walls: the stump leans by tipX degrees towards mesial above the finish line, as a tilted handpiece leaves it.
  const positions = m.positions.slice();
  const k = Math.tan((tipX * Math.PI) / 180);
  for (let i = 0; i < positions.length; i += 3) if (positions[i + 2] > 1 + 1e-9) positions[i] += k * (positions[i + 2] - 1);
  return makeMesh('tooth', positions, m.triangles);
}

/** The same surface with every point off it by noise of that standard deviation (mm), each by itself. */
export function rough(m: Mesh<'tooth'>, noise: number, seed = 3): Mesh<'tooth'> {
  const random = seeded(seed);
  const { normals } = vertexNormals(m);
  const positions = m.positions.slice();
  for (let v = 0; v < positions.length / 3; v++) {
    const off = noise * random.normal();
    for (let k = 0; k < 3; k++) positions[3 * v + k] += off * normals[3 * v + k];
  }
  return makeMesh('tooth', positions, m.triangles);
}

interface Piece {
  readonly mesh: Mesh<'tooth'>;
  readonly at: readonly [number, number, number];
  readonly part: number;
}

/** Meshes side by side in one, with one part label per vertex. */
function together(pieces: readonly Piece[]): { mesh: Mesh<'tooth'>; parts: Uint8Array } {
  const positions: number[] = [];
  const triangles: number[] = [];
  const parts: number[] = [];
  for (const { mesh, at, part } of pieces) {
    const first = positions.length / 3;
    for (let i = 0; i < mesh.positions.length; i++) positions.push(mesh.positions[i] + at[i % 3]);
    for (const t of mesh.triangles) triangles.push(first + t);
    for (let i = 0; i < mesh.positions.length / 3; i++) parts.push(part);
  }
  return { mesh: makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles)), parts: Uint8Array.from(parts) };
}

/** Domes of their own heights beside the target and a stepped ground: a scene that fits in one pose only. */
function surroundings(shrunk = 0): Piece[] {
  // Sheared, so that no mirror image of the scene fits it.
  const dome = (r: number, h: number): Mesh<'tooth'> => {
    const m = revolve(
      along(
        [
          [0, h + 1.2],
          [0.5 * r, h + 0.9],
          [r, h],
          [r, -1.5],
        ],
        0.16,
      ),
      140,
    );
    return makeMesh(
      'tooth',
      m.positions.map((v, i, all) => (i % 3 === 0 ? v + 0.45 * all[i + 1] : v)),
      m.triangles,
    );
  };
  return [
    { mesh: dome(4.2 - shrunk, 6 - shrunk), at: [9.6, 0.6, 0], part: 2 },
    { mesh: dome(3.4, 4.5), at: [-9, -0.9, 0], part: 3 },
    { mesh: dome(1.6, 2), at: [3, 9.5, 0], part: 4 },
    { mesh: plate(16, -1.4, 90), at: [0.7, -0.4, 0], part: 4 },
  ];
}

const uncut = (): Mesh<'tooth'> =>
  revolve(
    along([
      [0, 7],
      [5, 7],
      [5, -1.5],
    ]),
  );

/** The cylinder tooth standing among others, and what was cut from it. */
export const archMaster = (): Master =>
  once('arch', () => {
    const { mesh, parts } = together([{ mesh: uncut(), at: [0, 0, 0], part: 1 }, ...surroundings()]);
    return prepareMaster(
      { ...cylinderMaster().description, name: 'Cylinder among domes' },
      { arch: { mesh, parts }, opposing: null, dej: null, caries: null, pulp: null },
    );
  });

/** The scene with the target as given (null: untouched), its mesial neighbour cut down by `shrunk` mm all round. */
export const archScan = (prepared: Mesh<'tooth'> | null, shrunk = 0): Mesh<'tooth'> =>
  together([{ mesh: prepared ?? uncut(), at: [0, 0, 0], part: 1 }, ...surroundings(shrunk)]).mesh;
