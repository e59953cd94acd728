import { describe, expect, it } from 'vitest';
import { makeMesh, vertexNormals } from '../../mesh/mesh.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { seeded } from '../../statistics/random.ts';
import { wallLean } from './wall-angle.ts';

/** degrees: lean of the walls. */
const LEAN = 6;

/**
 * A wall along x that looks to +y, leans, and turns towards the viewer in an arc of 0.4 mm beyond its ends, scanned with 0.02 mm of noise in points
 * `apart` along x and z; three quarters of its points count as its own.
 */
function wall(width: number, apart: readonly [number, number], seed: number): { a: CavityAnatomy; own: number[] } {
  const random = seeded(seed);
  const [cols, rows] = [Math.round(width / apart[0]) + 5, Math.round(2 / apart[1]) + 1];
  const jitter = (step: number): number => 0.7 * step * (random.next() - 0.5);
  const positions = new Float64Array(3 * cols * rows);
  const own: number[] = [];
  for (let v = 0; v < cols * rows; v++) {
    const [i, j] = [v % cols, Math.floor(v / cols)];
    const [x, z] = [(i - 2) * apart[0] + jitter(apart[0]), j * apart[1] + jitter(apart[1])];
    const beyond = Math.max(0, -x, x - (cols - 5) * apart[0]);
    positions.set([x, -z * Math.tan((LEAN * Math.PI) / 180) + beyond ** 2 / 0.8 + 0.02 * random.normal(), z], 3 * v);
    if (i > 0 && i < cols - 1 && j > 0 && j < rows - 1 && random.next() > 0.25) own.push(v);
  }
  const triangles = Array.from({ length: (rows - 1) * (cols - 1) }, (_, k) => {
    const v = Math.floor(k / (cols - 1)) * cols + (k % (cols - 1));
    return [v, v + cols, v + 1, v + 1, v + cols, v + cols + 1];
  }).flat();
  const mesh = makeMesh('tooth', positions, Uint32Array.from(triangles));
  const region = { mesh, ...vertexNormals(mesh), prepared: new Uint8Array(cols * rows).fill(1), spacing: 0.12 };
  return { a: { region } as unknown as CavityAnatomy, own };
}

function errors(width: number, apart: readonly [number, number]): { off: number; u: number }[] {
  return Array.from({ length: 60 }, (_, seed) => {
    const { a, own } = wall(width, apart, seed + 1);
    const found = wallLean(a, { all: own, moved: [own] });
    if (!found) throw new Error('no wall');
    return { off: Math.abs(Math.abs(found.mean) - LEAN), u: found.noise };
  });
}
const held = (q: readonly { off: number; u: number }[]): number => q.filter(({ off, u }) => off <= 2 * u).length / q.length;

describe('lean of a wall', () => {
  it('of a broad wall is known to about a degree', () => {
    const broad = errors(3, [0.13, 0.13]);
    expect(held(broad)).toBeGreaterThan(0.93);
    for (const { u } of broad) expect(2 * u).toBeLessThan(2.5);
  });
  it('of a wall of a few points’ breadth lies within what is told, on even triangles and on slivers up or across', () => {
    const narrow = [
      [0.13, 0.13],
      [0.06, 0.3],
      [0.25, 0.06],
    ].flatMap(([x, z]) => errors(0.4, [x, z]));
    expect(held(narrow)).toBeGreaterThan(0.9);
  });
});
