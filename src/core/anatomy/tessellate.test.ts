import { describe, expect, it } from 'vitest';
import { borderVertices, makeMesh } from '../mesh/mesh.ts';
import { type Solid, tessellateStar } from './tessellate.ts';

const radii = ({ positions: p }: Solid, [x, y, z]: readonly number[]): number[] =>
  Array.from({ length: p.length / 3 }, (_, i) => Math.hypot(p[3 * i] - x, p[3 * i + 1] - y, p[3 * i + 2] - z));

describe('a star-shaped body as triangles', () => {
  it.each([0.3, 0.8, 2.9, 13.2])('a ball of radius %s mm has every corner at it', (r) => {
    for (const q of radii(
      tessellateStar((x, y, z) => r - Math.hypot(x, y, z), [0, 0, 0], 12),
      [0, 0, 0],
    ))
      expect(q).toBeCloseTo(r, 5);
  });
  it('seen from beside its middle, where near and far surface lie in neighbouring directions, it is the same ball', () => {
    for (const q of radii(
      tessellateStar((x, y, z) => 5 - Math.hypot(x - 1, y + 2, z - 3), [0, 0, 0], 20),
      [1, -2, 3],
    ))
      expect(q).toBeCloseTo(5, 5);
  });
  it('a box’s corners lie on its six faces', () => {
    const { positions: p } = tessellateStar((x, y, z) => Math.min(4 - Math.abs(x), 1 - Math.abs(y), 2 - Math.abs(z)), [0, 0, 0], 24);
    for (let i = 0; i < p.length; i += 3)
      expect(Math.max(Math.abs(p[i]) / 4, Math.abs(p[i + 1]), Math.abs(p[i + 2]) / 2)).toBeCloseTo(1, 5);
  });
  it('is closed, and holds what a ball holds, less its chords', () => {
    const { positions: p, triangles: t } = tessellateStar((x, y, z) => 3 - Math.hypot(x, y, z), [0, 0, 0], 30);
    expect([...borderVertices(makeMesh('tooth', p, t))].some(Boolean)).toBe(false);
    let volume = 0;
    for (let f = 0; f < t.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => p.slice(3 * t[f + k], 3 * t[f + k] + 3));
      volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
    }
    const whole = (4 / 3) * Math.PI * 27;
    expect(volume).toBeLessThan(whole);
    expect(volume).toBeGreaterThan(0.99 * whole);
  });
});
