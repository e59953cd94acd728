import type { Mesh } from '../mesh/mesh.ts';

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
    const v = [t[f], t[f + 1], t[f + 2]];
    if (!v.every(accept)) continue;
    const z = v.map((q) => p[3 * q + 2]);
    const first = Math.max(0, Math.ceil((Math.min(...z) - levels[0]) / step));
    for (let i = first; i < levels.length && levels[i] < Math.max(...z); i++) crossed[i].push(f);
  }
  return levels.map((level, i) => link(mesh, normals, level, crossed[i]));
}

function link(mesh: Mesh, normals: ArrayLike<number>, level: number, triangles: readonly number[]): CrossChain[] {
  const p = mesh.positions;
  const t = mesh.triangles;
  const nv = p.length / 3;
  const nodes = new Map<number, number>();
  const points: [number, number, number][] = [];
  const links: number[][] = [];
  const node = (u: number, v: number): number => {
    const key = Math.min(u, v) * nv + Math.max(u, v);
    let k = nodes.get(key);
    if (k === undefined) {
      k = points.length;
      nodes.set(key, k);
      const f = (level - p[3 * u + 2]) / (p[3 * v + 2] - p[3 * u + 2]);
      const mix = (a: ArrayLike<number>, c: number): number => a[3 * u + c] + f * (a[3 * v + c] - a[3 * u + c]);
      points.push([mix(p, 0), mix(p, 1), mix(normals, 2)]);
      links.push([]);
    }
    return k;
  };
  for (const f of triangles) {
    const ends: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [u, v] = [t[f + k], t[f + ((k + 1) % 3)]];
      if (p[3 * u + 2] > level !== p[3 * v + 2] > level) ends.push(node(u, v));
    }
    if (ends.length === 2) {
      links[ends[0]].push(ends[1]);
      links[ends[1]].push(ends[0]);
    }
  }
  const seen = new Uint8Array(points.length);
  const out: CrossChain[] = [];
  const walk = (start: number): void => {
    const chain: number[] = [];
    for (let at = start; at >= 0; ) {
      seen[at] = 1;
      chain.push(at);
      at = links[at].find((q) => !seen[q]) ?? -1;
    }
    if (chain.length > 1)
      out.push({ x: chain.map((k) => points[k][0]), y: chain.map((k) => points[k][1]), up: chain.map((k) => points[k][2]) });
  };
  // Open chains first, from their ends.
  for (let i = 0; i < points.length; i++) if (!seen[i] && links[i].length === 1) walk(i);
  for (let i = 0; i < points.length; i++) if (!seen[i]) walk(i);
  return out;
}
