import { describe, expect, it } from 'vitest';
import { IDENTITY, invertRigid, transformPoints } from '../linalg/rigid.ts';
import { makeMesh } from '../mesh/mesh.ts';
import { readScan } from '../scan/scan.ts';
import { SCAN_FILES, type ScanRecipe } from './recipe.ts';
import { scanOf } from './scanner.ts';
import type { LabelledMesh, SolidKernel } from './solids.ts';
import { writeScan } from './write.ts';

const DEEP = 12;

/** A well: a level plate 8 mm square with a shaft 2 mm square and 12 mm deep in its middle, in small triangles. */
function well(): LabelledMesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  const sheet = (at: (u: number, v: number) => [number, number, number], nu: number, nv: number) => {
    const start = positions.length / 3;
    for (let j = 0; j <= nv; j++) for (let i = 0; i <= nu; i++) positions.push(...at(i / nu, j / nv));
    for (let j = 0; j < nv; j++)
      for (let i = 0; i < nu; i++) {
        const a = start + j * (nu + 1) + i;
        triangles.push(a, a + 1, a + nu + 2, a, a + nu + 2, a + nu + 1);
      }
  };
  for (const [x0, x1, y0, y1] of [
    [-4, -1, -4, 4],
    [1, 4, -4, 4],
    [-1, 1, -4, -1],
    [-1, 1, 1, 4],
  ])
    sheet((u, v) => [x0 + u * (x1 - x0), y0 + v * (y1 - y0), DEEP], 20, 20);
  sheet((u, v) => [-1 + 2 * u, -1 + 2 * v, 0], 20, 20);
  // Walls, seen from inside the shaft.
  sheet((u, v) => [-1, -1 + 2 * u, DEEP * v], 20, 60);
  sheet((u, v) => [1, 1 - 2 * u, DEEP * v], 20, 60);
  sheet((u, v) => [1 - 2 * u, -1, DEEP * v], 20, 60);
  sheet((u, v) => [-1 + 2 * u, 1, DEEP * v], 20, 60);
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles), labels: new Uint8Array(triangles.length / 3) };
}

const kernel: Pick<SolidKernel, 'simplify'> = { simplify: () => new Uint32Array(0) };
const plain: ScanRecipe = { triangles: 1e6, noise: 0, correlation: 0.25, pose: 'none', border: 1 };
const scan = (change: Partial<ScanRecipe>, seed = 1) => scanOf(well(), IDENTITY, { ...plain, ...change }, 10, seed, kernel);
/** Lowest point that was seen of each wall of the shaft. */
const lowest = (m: { positions: ArrayLike<number>; triangles: ArrayLike<number> }, wall: (x: number, y: number) => boolean, above = -1) => {
  let low = Infinity;
  for (let i = 0; i < m.triangles.length; i++) {
    const [x, y, z] = [0, 1, 2].map((k) => m.positions[3 * m.triangles[i] + k]);
    if (wall(x, y) && z > above) low = Math.min(low, z);
  }
  return low;
};

describe('what a camera sees', () => {
  it('is the whole preparation by default', () => expect(scan({}).mesh.triangles.length).toBe(well().triangles.length));
  it('is the wall down to where the brim stands in the way', () => {
    // The steepest look that still shows a wall is 15 degrees off the axis: over a brim 2 mm away it reaches 2 ÷ tan 15° down.
    const reach = DEEP - 2 / Math.tan((15 * Math.PI) / 180);
    const seen = lowest(scan({ sight: 60 }).mesh, (x, y) => x === 1 && Math.abs(y) < 0.3, 0);
    expect(seen).toBeLessThan(reach + 0.2);
    expect(seen).toBeGreaterThan(reach - 1.5);
  });
  it('always includes the floor, which is open to above', () =>
    expect(lowest(scan({ sight: 30 }).mesh, (x, y) => Math.abs(x) < 0.1 && Math.abs(y) < 0.1)).toBe(0));
});

describe('noise and pose', () => {
  it('are the same for the same seed and differ for another', () => {
    const [a, b] = [1, 2].map(() => scan({ noise: 0.02, pose: 'random' }, 4).mesh.positions);
    expect(a.length).toBe(b.length);
    expect(a.findIndex((x, i) => x !== b[i])).toBe(-1);
    expect(scan({ pose: 'random' }, 4).pose).not.toEqual(scan({ pose: 'random' }, 5).pose);
  });
  it('moves points along their normals by the recipe’s noise', () => {
    const clean = scan({}).mesh.positions;
    const noisy = scan({ noise: 0.03 }).mesh.positions;
    const off: number[] = [];
    for (let i = 0; i < clean.length; i += 3)
      if (Math.abs(clean[i]) > 1.3 && Math.abs(clean[i]) < 3.7 && Math.abs(clean[i + 1]) < 3.7) {
        expect(Math.abs(noisy[i] - clean[i])).toBeLessThan(1e-9);
        off.push(noisy[i + 2] - clean[i + 2]);
      }
    expect(Math.sqrt(off.reduce((s, d) => s + d * d, 0) / off.length)).toBeCloseTo(0.03, 2);
  });
  it('a pose undone leaves the scan where it was cut', () => {
    const { mesh, pose } = scan({ pose: 'random' }, 7);
    expect(scan({}).pose).toEqual(IDENTITY);
    const back = transformPoints(invertRigid(pose), mesh.positions);
    const still = scan({}, 7).mesh.positions;
    expect(Math.max(...Array.from(back, (v, i) => Math.abs(v - still[i])))).toBeLessThan(1e-9);
  });
});

describe.each(SCAN_FILES)('a scan written as %s', (kind) => {
  it('is read back unchanged', () => {
    // As large as an arch: a reader doubts the unit of anything smaller.
    const m = scan({}).mesh;
    const large = makeMesh(
      'scanner',
      m.positions.map((v) => v * 4),
      m.triangles,
    );
    const { name, bytes } = writeScan(large, kind);
    expect(name).toMatch(/^scan\.(stl|ply|obj)$/);
    const read = readScan(bytes).mesh;
    expect(read.triangles.length).toBe(large.triangles.length);
    const box = (p: ArrayLike<number>) => [0, 1, 2].map((k) => Math.max(...Array.from({ length: p.length / 3 }, (_, i) => p[3 * i + k])));
    for (const [k, v] of box(read.positions).entries()) expect(v).toBeCloseTo(box(large.positions)[k], 4);
  });
});
