import { describe, expect, it } from 'vitest';
import { toRadians } from '../../linalg/vec.ts';
import { seeded } from '../../statistics/random.ts';
import { columnTops } from './incisal-edge.ts';

/** Points of an edge along x, 4 mm long: height over y at every column. */
function edge(heightAt: (x: number, y: number) => number, halfWidth: number, spacing: number, noise: number): Float64Array {
  const r = seeded(3);
  const out: number[] = [];
  for (let x = -2; x <= 2; x += spacing)
    for (let y = -halfWidth; y <= halfWidth; y += spacing) out.push(x, y, heightAt(x, y) + noise * r.normal());
  return Float64Array.from(out);
}

describe('the highest place of a column across an edge', () => {
  const middle = (p: Float64Array) => [...columnTops(p, null).values()].filter((q) => Math.abs(q.x) < 1.5);

  it('of a broad cut that falls to lingual lies at its facial end, not in its middle', () => {
    const fall = Math.tan(toRadians(5));
    // A plane 2.4 mm broad whose facial end drops into the wall.
    const tops = middle(edge((_, y) => 8 + fall * y - (y > 1.2 ? 6 * (y - 1.2) : 0), 1.3, 0.1, 0.02));
    for (const q of tops) {
      expect(q.y).toBeGreaterThan(0.5);
      expect(Math.abs(q.z - (8 + 1.2 * fall))).toBeLessThan(0.06);
    }
  });

  it('of a thin edge is its corner', () => {
    const tops = middle(edge((_, y) => 8 - Math.abs(y), 1, 0.08, 0.01));
    for (const q of tops) {
      expect(Math.abs(q.y)).toBeLessThan(0.05);
      expect(Math.abs(q.z - 8)).toBeLessThan(0.04);
    }
  });

  it('follows an edge that rises along the arch', () => {
    for (const q of middle(edge((x, y) => 8 + 0.3 * x - 0.8 * y * y, 1, 0.08, 0.01)))
      expect(Math.abs(q.z - 8 - 0.3 * q.x)).toBeLessThan(0.04);
  });
});
