import type { Mesh } from '../mesh/mesh.ts';

/**
 * Where a mesh's triangles pass from inside to outside of something: a point on each side that does, put together over shared
 * sides into chains. Open chains begin at their ends; a hole in the mesh breaks a chain.
 */
export function chainsBetween<T>(
  mesh: Mesh,
  triangles: Iterable<number>,
  inside: (v: number) => boolean,
  place: (inner: number, outer: number) => T,
): T[][] {
  const t = mesh.triangles;
  const nv = mesh.positions.length / 3;
  const nodes = new Map<number, number>();
  const points: T[] = [];
  const links: number[][] = [];
  const node = (inner: number, outer: number): number => {
    const key = Math.min(inner, outer) * nv + Math.max(inner, outer);
    let k = nodes.get(key);
    if (k === undefined) {
      k = points.length;
      nodes.set(key, k);
      points.push(place(inner, outer));
      links.push([]);
    }
    return k;
  };
  for (const f of triangles) {
    const ends: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [u, v] = [t[f + k], t[f + ((k + 1) % 3)]];
      if (inside(u) !== inside(v)) ends.push(inside(u) ? node(u, v) : node(v, u));
    }
    if (ends.length === 2) {
      links[ends[0]].push(ends[1]);
      links[ends[1]].push(ends[0]);
    }
  }
  const seen = new Uint8Array(points.length);
  const chains: T[][] = [];
  const walk = (start: number): void => {
    const chain: T[] = [];
    for (let at = start; at >= 0; ) {
      seen[at] = 1;
      chain.push(points[at]);
      at = links[at].find((q) => !seen[q]) ?? -1;
    }
    if (chain.length > 1) chains.push(chain);
  };
  for (let i = 0; i < points.length; i++) if (!seen[i] && links[i].length === 1) walk(i);
  for (let i = 0; i < points.length; i++) if (!seen[i]) walk(i);
  return chains;
}
