import type { Mesh } from '../mesh/mesh.ts';
import { chainsBetween } from './chains.ts';

/** A chain of points where a level plane cuts a mesh, with the normals' axial component. */
export interface CrossChain {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly up: readonly number[];
}

/** Cuts the accepted part of a mesh by planes across the z axis; each gives its chains, put together over shared sides. */
export function cutAcross(
  mesh: Mesh,
  normals: ArrayLike<number>,
  accept: (v: number) => boolean,
  levels: readonly number[],
): CrossChain[][] {
  const p = mesh.positions;
  const t = mesh.triangles;
  const crossed: number[][] = levels.map(() => []);
  const step = levels.length > 1 ? levels[1] - levels[0] : 1;
  for (let f = 0; f < t.length; f += 3) {
    if (!accept(t[f]) || !accept(t[f + 1]) || !accept(t[f + 2])) continue;
    const [a, b, c] = [p[3 * t[f] + 2], p[3 * t[f + 1] + 2], p[3 * t[f + 2] + 2]];
    const top = Math.max(a, b, c);
    const first = Math.max(0, Math.ceil((Math.min(a, b, c) - levels[0]) / step));
    for (let i = first; i < levels.length && levels[i] < top; i++) crossed[i].push(f);
  }
  return levels.map((level, i) =>
    chainsBetween(
      mesh,
      crossed[i],
      (v) => p[3 * v + 2] > level,
      (u, v) => {
        const f = (level - p[3 * u + 2]) / (p[3 * v + 2] - p[3 * u + 2]);
        const mix = (a: ArrayLike<number>, c: number): number => a[3 * u + c] + f * (a[3 * v + c] - a[3 * u + c]);
        return [mix(p, 0), mix(p, 1), mix(normals, 2)] as const;
      },
    ).map((chain) => ({ x: chain.map((q) => q[0]), y: chain.map((q) => q[1]), up: chain.map((q) => q[2]) })),
  );
}
