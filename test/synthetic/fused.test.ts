import { describe, expect, it } from 'vitest';
import { bridged } from '#core/master/fused.ts';
import { makeMesh } from '#core/mesh/mesh.ts';

/** A strip along x of 0.1 mm squares, each vertex labelled by its place. */
function strip(labelAt: (x: number) => number): { mesh: ReturnType<typeof makeMesh<'tooth'>>; parts: number[]; xs: number[] } {
  const positions: number[] = [];
  const parts: number[] = [];
  const xs: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i <= 60; i++)
    for (const y of [0, 0.1]) {
      const x = i / 10 - 3;
      positions.push(x, y, 0);
      parts.push(labelAt(x));
      xs.push(x);
    }
  for (let i = 0; i < 60; i++) triangles.push(2 * i, 2 * i + 2, 2 * i + 1, 2 * i + 1, 2 * i + 2, 2 * i + 3);
  return { mesh: makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles)), parts, xs };
}

describe('a master whose scan closed the gap beside a contact', () => {
  it('has its bridge marked up to 0.6 mm to both sides', () => {
    const { mesh, parts, xs } = strip((x) => (x < 0 ? 1 : 2));
    const near = bridged(mesh, parts, 1, [2, 3]);
    expect(xs.filter((x, v) => Math.abs(x) < 0.5 && !near[v])).toEqual([]);
    expect(xs.filter((x, v) => Math.abs(x) > 0.85 && near[v])).toEqual([]);
  });
  it('has none between a tooth and the gingiva, or between others', () => {
    const gum = strip((x) => (x < 0 ? 1 : 4));
    expect(bridged(gum.mesh, gum.parts, 1, [2, 3]).some(Boolean)).toBe(false);
    const others = strip((x) => (x < 0 ? 2 : 3));
    expect(bridged(others.mesh, others.parts, 1, [2, 3]).some(Boolean)).toBe(false);
  });
});
