import { describe, expect, it } from 'vitest';
import { SideNumbers } from './side-numbers.ts';

describe('numbers of sides', () => {
  it('come in the order in which sides are first asked for, whichever way round', () => {
    const sides = new SideNumbers(4);
    expect([sides.of(3, 9), sides.of(9, 3), sides.of(9, 4), sides.of(3, 9), sides.of(3, 4)]).toEqual([0, 0, 1, 0, 2]);
    expect(sides.count).toBe(3);
  });

  it('are as many as a closed grid has sides: three per vertex on a torus of triangles', () => {
    const n = 60;
    const at = (i: number, j: number): number => (i % n) * n + (j % n);
    const sides = new SideNumbers(3 * n * n);
    const asked = new Uint8Array(3 * n * n);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
        for (const [u, v] of [
          [a, b],
          [b, c],
          [c, a],
          [a, c],
          [c, d],
          [d, a],
        ])
          asked[sides.of(u, v)]++;
      }
    expect(sides.count).toBe(3 * n * n);
    expect(asked.every((times) => times === 2)).toBe(true);
  });

  it('of vertices far beyond sixteen bits are told apart', () => {
    const sides = new SideNumbers(3000);
    for (let k = 0; k < 3000; k++) expect(sides.of(2_000_000 + k, 2_000_001 + k)).toBe(k);
    for (let k = 0; k < 3000; k++) expect(sides.of(2_000_001 + k, 2_000_000 + k)).toBe(k);
  });
});
