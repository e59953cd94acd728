import { type Mesh, vertexAdjacency, vertexCount, vertexNormals } from '../mesh/mesh.ts';

export interface Concavity {
  readonly adjacency: { readonly start: Uint32Array; readonly list: Uint32Array };
  /** 1/mm a vertex: how strongly the surface is hollow there; 0 where it is flat or bulges. */
  readonly hollow: Float64Array;
  readonly normals: Float64Array;
}

/**
 * Hollowness of a surface: valleys part teeth from one another and from the gingiva.
 * @formula mean over the neighbours of 2 n·(q − p) ÷ |q − p|², averaged over the ring three times, negative ones 0
 * @units 1/mm
 * @source discrete normal curvature, Taubin 1995
 */
export function concavity(mesh: Mesh): Concavity {
  const adjacency = vertexAdjacency(mesh);
  const { normals } = vertexNormals(mesh);
  const p = mesh.positions;
  const n = vertexCount(mesh);
  let k = new Float64Array(n);
  for (let v = 0; v < n; v++) {
    let sum = 0;
    let count = 0;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
      const w = adjacency.list[i];
      const d = [p[3 * w] - p[3 * v], p[3 * w + 1] - p[3 * v + 1], p[3 * w + 2] - p[3 * v + 2]];
      // Points that nearly coincide tell of noise only.
      const l2 = Math.max(d[0] ** 2 + d[1] ** 2 + d[2] ** 2, 0.01);
      sum += (2 * (normals[3 * v] * d[0] + normals[3 * v + 1] * d[1] + normals[3 * v + 2] * d[2])) / l2;
      count++;
    }
    k[v] = count ? sum / count : 0;
  }
  for (let pass = 0; pass < 3; pass++) {
    const next = new Float64Array(n);
    for (let v = 0; v < n; v++) {
      let sum = k[v];
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) sum += k[adjacency.list[i]];
      next[v] = sum / (1 + adjacency.start[v + 1] - adjacency.start[v]);
    }
    k = next;
  }
  for (let v = 0; v < n; v++) k[v] = Math.max(0, k[v]);
  return { adjacency, hollow: k, normals };
}
