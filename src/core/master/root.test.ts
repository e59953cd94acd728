import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../linalg/vec.ts';
import { makeMesh } from '../mesh/mesh.ts';
import { makeSurface, signedDistance } from '../spatial/surface.ts';
import { ROOT_REACH, rootOf } from './root.ts';

/** The side of a cone round z: radius `at` mm where z = 0, `lean` mm less for each mm up, from z = 0 to `high`. */
function cone(at: number, lean: number, high = 6) {
  const [n, rows] = [120, 24];
  const positions: number[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i < n; i++) {
      const a = (2 * Math.PI * i) / n;
      const z = (high * j) / rows;
      positions.push((at - lean * z) * Math.sin(a), (at - lean * z) * Math.cos(a), z);
    }
  const triangles: number[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < n; i++) {
      const [a, b] = [j * n + i, j * n + ((i + 1) % n)];
      triangles.push(a, a + n, b, b, a + n, b + n);
    }
  return makeSurface(makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles)));
}

/** The line on it at a height that may rise and fall round the tooth, one way round or the other. */
const line = (at: number, lean: number, height: (a: number) => number, way: 1 | -1 = 1): Vec3[] =>
  Array.from({ length: 72 }, (_, i): Vec3 => {
    const a = (way * 2 * Math.PI * i) / 72;
    const z = height(a);
    return [(at - lean * z) * Math.sin(a), (at - lean * z) * Math.cos(a), z];
  });

describe('a tooth’s side under the gingiva', () => {
  it.each([
    ['upright', 0],
    ['leaning in to the top', 0.12],
    ['overhanging', -0.08],
  ])('goes straight on from an %s side', (_, lean) => {
    const root = rootOf(
      cone(5, lean),
      line(5, lean, () => 1),
    );
    if (!root) throw new Error('a root was expected');
    // It begins on the margin and follows the same cone two millimetres along the side.
    const p = root.mesh.positions;
    for (let v = 0; v < p.length / 3; v++) {
      const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      expect(Math.abs(Math.hypot(x, y) - (5 - lean * z))).toBeLessThan(0.02);
    }
    const lowest = Math.min(...p.filter((_, i) => i % 3 === 2));
    expect(lowest).toBeCloseTo(1 - ROOT_REACH / Math.sqrt(1 + lean * lean), 1);
  });
  it.each([1, -1] as const)('looks outward, whichever way the margin runs (%i)', (way) => {
    const root = rootOf(
      cone(5, 0.1),
      line(5, 0.1, () => 1, way),
    );
    if (!root) throw new Error('a root was expected');
    expect(signedDistance(root, 7, 0, 0)).toBeGreaterThan(0);
    expect(signedDistance(root, 3, 1, 0)).toBeLessThan(0);
  });
  it('follows a margin that rises between the teeth', () => {
    const height = (a: number): number => 1.2 + 0.5 * Math.cos(2 * a);
    const root = rootOf(cone(5, 0), line(5, 0, height));
    if (!root) throw new Error('a root was expected');
    for (const a of [0, 0.8, 1.6, 3, 4.5]) {
      const at = (z: number) => signedDistance(root, 6 * Math.sin(a), 6 * Math.cos(a), z) as number;
      expect(at(height(a) - 1)).toBeCloseTo(1, 1);
      // Above the margin it ends: the distance is to its rim there.
      expect(at(height(a) + 2)).toBeGreaterThan(1.8);
    }
  });
  it('is none where the margin does not lie on the tooth', () => {
    expect(
      rootOf(
        cone(5, 0),
        line(7, 0, () => 1),
      ),
    ).toBeNull();
    // A single place off it is enough: there is nothing to go on from.
    const one = line(5, 0, () => 1).map((p, i): Vec3 => (i === 10 ? [9, 9, 1] : p));
    expect(rootOf(cone(5, 0), one)).toBeNull();
  });
  it('is none of a margin too short to go round a tooth', () =>
    expect(
      rootOf(
        cone(5, 0),
        line(5, 0, () => 1)
          .slice(0, 3)
          .map(([x, y, z]): Vec3 => [x, y, z]),
      ),
    ).toBeNull());
  it('is none where the tooth ends a little above it: nothing tells how its side runs', () =>
    expect(
      rootOf(
        cone(5, 0, 1.3),
        line(5, 0, () => 1),
      ),
    ).toBeNull());
});
