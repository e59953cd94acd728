import type { Vec3 } from '#core/linalg/vec.ts';
import type { Master } from '#core/master/master.ts';
import { prepareMaster } from '#core/master/master.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';

/** A gingival margin of four points about the origin. */
export const SQUARE_MARGIN: readonly Vec3[] = [
  [4, 0, 0],
  [0, 4, 0],
  [-4, 0, 0],
  [0, -4, 0],
];

/** Level top at z = 7, 9 mm square. */
const TOP = 7;
const HALF = 4.5;

/** A sheet z(x, y) whose grid has lines at the given breaks, so that edges fall on it. */
function sheet(xs: readonly number[], ys: readonly number[], z: (x: number, y: number) => number): Mesh<'tooth'> {
  const fine = (breaks: readonly number[]): number[] => {
    const sorted = [...new Set([-HALF, ...breaks, HALF])].sort((a, b) => a - b);
    return sorted.flatMap((a, i) => {
      if (i + 1 === sorted.length) return [a];
      const n = Math.max(1, Math.ceil((sorted[i + 1] - a) / 0.09));
      return Array.from({ length: n }, (_, k) => a + ((sorted[i + 1] - a) * k) / n);
    });
  };
  const gx = fine(xs);
  const gy = fine(ys);
  const positions: number[] = [];
  for (const y of gy) for (const x of gx) positions.push(x, y, z(x, y));
  const triangles: number[] = [];
  for (let j = 0; j + 1 < gy.length; j++)
    for (let i = 0; i + 1 < gx.length; i++) {
      const a = j * gx.length + i;
      triangles.push(a, a + 1, a + gx.length + 1, a, a + gx.length + 1, a + gx.length);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** A tooth that is a level table with a groove along x through its middle. */
export function tableMaster(): Master {
  const arch = sheet([], [], () => TOP);
  return prepareMaster(
    {
      name: 'Table',
      tooth: '37',
      axis: [0, 0, 1],
      mesial: [1, 0, 0],
      facial: [0, 1, 0],
      cusps: [
        { name: 'MB', role: 'functional', at: [2, 3, TOP] },
        { name: 'ML', role: 'non-functional', at: [2, -3, TOP] },
      ],
      grooves: [
        {
          name: 'central',
          rank: 'primary',
          line: [
            [-3, 0, TOP],
            [0, 0, TOP],
            [3, 0, TOP],
          ],
        },
      ],
      ridges: {
        mesial: [],
        distal: [],
        oblique: [
          [1, -3, TOP],
          [-1, 3, TOP],
        ],
      },
      contacts: { mesial: null, distal: null },
      gingivalMargin: SQUARE_MARGIN,
    },
    { arch: { mesh: arch, parts: new Uint8Array(arch.positions.length / 3).fill(1) }, opposing: null, dej: null, caries: null, pulp: null },
  );
}

/** A rectangular cavity in the table: floor `length` by `width` at `depth`, walls diverging by `lean` degrees, floor rising to mesial by `tilt`. */
export function trough(length: number, width: number, depth: number, lean: number, tilt = 0): Mesh<'tooth'> {
  const k = Math.tan((lean * Math.PI) / 180);
  const slope = Math.tan((tilt * Math.PI) / 180);
  const floor = (x: number): number => TOP - depth + slope * x;
  const z = (x: number, y: number): number => {
    // Along each wall line the height over the floor is the distance from the foot over the lean's tangent.
    const over = Math.max(Math.abs(x) - length / 2, Math.abs(y) - width / 2) / k;
    return Math.min(TOP, floor(x) + Math.max(0, over));
  };
  const out = depth * k;
  const xs = [-length / 2 - out, -length / 2, length / 2, length / 2 + out];
  const ys = [-width / 2 - out, -width / 2, width / 2, width / 2 + out];
  return sheet([...xs, ...between(xs[0], xs[1]), ...between(xs[2], xs[3])], [...ys, ...between(ys[0], ys[1]), ...between(ys[2], ys[3])], z);
}

/** A round cavity in the table: a level floor of some radius at `depth`, its wall diverging by `lean` degrees all round. */
export function well(radius: number, depth: number, lean: number): Mesh<'tooth'> {
  const k = Math.tan((lean * Math.PI) / 180);
  const rings = [0.5, 1, ...Array.from({ length: 20 }, (_, i) => 1 + ((i + 1) * depth * k) / 20 / radius)].map((f) => f * radius);
  const n = 120;
  const outer = Array.from({ length: 40 }, (_, i) => rings[rings.length - 1] + ((i + 1) * (HALF - rings[rings.length - 1])) / 40);
  const positions: number[] = [0, 0, TOP - depth];
  const all = [...rings, ...outer];
  for (const r of all)
    for (let i = 0; i < n; i++) {
      const a = (2 * Math.PI * i) / n;
      positions.push(r * Math.cos(a), r * Math.sin(a), Math.min(TOP, TOP - depth + Math.max(0, (r - radius) / k)));
    }
  const id = (j: number, i: number): number => 1 + j * n + (i % n);
  const triangles: number[] = [];
  for (let i = 0; i < n; i++) {
    triangles.push(0, id(0, i), id(0, i + 1));
    for (let j = 0; j + 1 < all.length; j++)
      triangles.push(id(j, i), id(j + 1, i), id(j + 1, i + 1), id(j, i), id(j + 1, i + 1), id(j, i + 1));
  }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** The same edge as `trough`, but with walls that run in under it by `lean` degrees: each level is stretched about the middle. */
export function undercutTrough(length: number, width: number, depth: number, lean: number): Mesh<'tooth'> {
  const k = Math.tan((lean * Math.PI) / 180);
  const m = trough(length, width, depth, lean);
  const p = Float64Array.from(m.positions);
  for (let i = 0; i < p.length; i += 3) {
    const under = TOP - p[i + 2];
    if (under <= 0) continue;
    p[i] *= 1 + (2 * k * under) / (length / 2 + k * (depth - under));
    p[i + 1] *= 1 + (2 * k * under) / (width / 2 + k * (depth - under));
  }
  return makeMesh('tooth', p, m.triangles);
}

/** Ten lines across a wall: steep walls need their own. */
const between = (a: number, b: number): number[] => Array.from({ length: 19 }, (_, i) => a + ((b - a) * (i + 1)) / 20);
