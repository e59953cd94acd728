import { describe, expect, it } from 'vitest';
import { applyDirection, applyPoint, fromRotation, fromTranslation, IDENTITY, type Matrix, multiply } from '../linalg/rigid.ts';
import { angleBetween, length, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { intoFrame, type Mesh, makeMesh } from '../mesh/mesh.ts';
import { makeSurface } from '../spatial/surface.ts';
import { seeded } from '../statistics/random.ts';
import { coarseAlign, refineFrom, turnOnto } from './coarse.ts';
import { sampleSurface } from './sample.ts';

describe('the shortest turn of one direction onto another', () => {
  const random = seeded(9);
  it('takes it there and keeps lengths', () => {
    for (let i = 0; i < 50; i++) {
      const [a, b] = [0, 1].map(() => unit([random.normal(), random.normal(), random.normal()]));
      const m = turnOnto(a, b);
      expect(angleBetween(applyDirection(m, a), b)).toBeLessThan(1e-5);
      expect(length(applyDirection(m, [3, -2, 5]))).toBeCloseTo(Math.hypot(3, 2, 5), 9);
    }
  });
  it('is nothing for the same one, and half a turn for its opposite, whichever it is', () => {
    expect(turnOnto([0, 0, 1], [0, 0, 1])).toEqual(IDENTITY);
    for (const d of [
      [0, 0, 1],
      [1, 0, 0],
      [0, 1, 0],
    ] as const)
      expect(angleBetween(applyDirection(turnOnto([...d], [-d[0], -d[1], -d[2]] as Vec3), [...d]), [-d[0], -d[1], -d[2]])).toBeLessThan(
        1e-5,
      );
  });
});

/** A ridge along x with three unequal humps: no turn or shift lays it on itself. */
function ridge(): Mesh<'tooth'> {
  const [nx, ny] = [121, 61];
  const height = (x: number, y: number): number => {
    const hump = (at: number, up: number, wide: number): number => up * Math.exp(-(((x - at) / wide) ** 2) - (y / (wide + 1)) ** 2);
    return hump(-9, 4, 2.4) + hump(0, 6, 3.2) + hump(10, 5, 2) + 0.5 * Math.sin(y / 2);
  };
  const positions: number[] = [];
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const [x, y] = [(30 * i) / (nx - 1) - 15, (16 * j) / (ny - 1) - 8];
      positions.push(x, y, height(x, y));
    }
  const triangles: number[] = [];
  for (let j = 0; j + 1 < ny; j++)
    for (let i = 0; i + 1 < nx; i++) {
      const a = j * nx + i;
      triangles.push(a, a + 1, a + nx + 1, a, a + nx + 1, a + nx);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

describe('a pose that nobody hinted at', () => {
  const mesh = ridge();
  const surface = makeSurface(mesh);
  const moved = (m: Matrix) => sampleSurface(intoFrame(mesh, m, 'scanner'), 3000);
  /** mm by which a pose carries the corners of the ridge away from where they were. */
  const off = (pose: Matrix, there: Matrix): number =>
    Math.max(
      ...(
        [
          [-15, -8, 0],
          [15, 8, 0],
          [0, 0, 6],
        ] as Vec3[]
      ).map((p) => length(sub(applyPoint(pose, applyPoint(there, p)), p))),
    );
  it('is found however the scan was turned and wherever it lay', () => {
    for (const [axis, angle] of [
      [[0, 0, 1], 2.6],
      [[1, 0.3, -0.4], 1.9],
    ] as [Vec3, number][]) {
      const there = multiply(fromTranslation([40, -25, 12]), fromRotation(axis, angle));
      const found = coarseAlign(moved(there), surface);
      expect(found.share).toBeGreaterThan(0.9);
      expect(off(found.matrix, there)).toBeLessThan(0.1);
    }
  });
  it('is sharpened from near by', () => {
    const there = fromTranslation([0.4, -0.3, 0.2]);
    expect(off(refineFrom(moved(there), surface, IDENTITY).matrix, there)).toBeLessThan(0.02);
  });
});
