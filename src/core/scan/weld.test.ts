import { describe, expect, it } from 'vitest';
import { seeded } from '../statistics/random.ts';
import { WELD_GRID_MM, weld } from './weld.ts';

/** The eight corners of a cube as a soup of twelve triangles, shifted. */
function cubeSoup(shift: number): Float64Array {
  const corner = (i: number): number[] => [(i & 1) + shift, ((i >> 1) & 1) - shift, ((i >> 2) & 1) + 2 * shift];
  const faces = [
    [0, 2, 1],
    [1, 2, 3],
    [4, 5, 6],
    [5, 7, 6],
    [0, 1, 4],
    [1, 5, 4],
    [2, 6, 3],
    [3, 6, 7],
    [0, 4, 2],
    [2, 4, 6],
    [1, 3, 5],
    [3, 7, 5],
  ];
  return Float64Array.from(faces.flat().flatMap(corner));
}

describe('joining the corners of a soup', () => {
  it('a cube of 36 corners has eight points and keeps its twelve triangles', () => {
    for (const shift of [0, 0.123456, -61.7]) {
      const w = weld(cubeSoup(shift), null);
      expect(w.positions).toHaveLength(24);
      expect(w.triangles).toHaveLength(36);
    }
  });
  it('every corner is where it was, to the grid’s step', () => {
    const soup = cubeSoup(3.3);
    const w = weld(soup, null);
    for (let i = 0; i < soup.length; i++)
      expect(Math.abs(w.positions[3 * w.vertexOf[Math.floor(i / 3)] + (i % 3)] - soup[i])).toBeLessThanOrEqual(WELD_GRID_MM);
  });
  it('what rounding parts is one point, what a scanner parts is two', () => {
    const at = (gap: number) =>
      weld(Float64Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, gap, 0, 0, 1, 1, 0, 0, 1, 0]), null).positions.length / 3;
    expect(at(1e-6)).toBe(4);
    expect(at(1e-3)).toBe(5);
  });
  it('a triangle that loses a corner is dropped, its neighbours stay', () => {
    const p = [0, 0, 0, 1, 0, 0, 0, 1, 0, 1e-6, 0, 0];
    expect([...weld(Float64Array.from(p), Uint32Array.from([0, 1, 2, 0, 3, 1])).triangles]).toEqual([0, 1, 2]);
  });
  it('given triangles are carried over to the joined points', () => {
    const w = weld(Float64Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0]), Uint32Array.from([0, 1, 2, 3, 4, 2]));
    expect([...w.triangles]).toEqual([0, 1, 2, 1, 3, 2]);
  });
  it('of ten thousand points given twice, each is found again among the others', () => {
    const random = seeded(3);
    const once = Float64Array.from({ length: 30_000 }, () => 80 * random.next() - 40);
    const w = weld(Float64Array.from([...once, ...once]), null);
    expect(w.positions.length / 3).toBeLessThanOrEqual(10_000);
    for (let i = 0; i < 10_000; i++) expect(w.vertexOf[i]).toBe(w.vertexOf[i + 10_000]);
  });
  it('done again it changes nothing, once coordinates are in single precision', () => {
    const random = seeded(5);
    // Pairs a tenth to twice the grid's step apart: some lie in one cell, some in two.
    const soup = Float64Array.from(
      Array.from({ length: 3000 }, () => {
        const at = [0, 1, 2].map(() => 60 * random.next() - 30);
        const step = WELD_GRID_MM * (0.1 + 1.9 * random.next());
        return [...at, at[0] + step, at[1], at[2], at[0], at[1] + 1, at[2]];
      }).flat(),
      Math.fround,
    );
    const once = weld(soup, null);
    const again = weld(Float64Array.from(once.positions, Math.fround), once.triangles);
    expect(again.positions).toHaveLength(once.positions.length);
    expect([...again.triangles]).toEqual([...once.triangles]);
  });
  it('nothing is nothing', () => expect(weld(new Float64Array(0), null).triangles).toHaveLength(0));
});
