import type { Matrix } from '../linalg/rigid.ts';
import { determinant3, transformPoints } from '../linalg/rigid.ts';

/** The frame a mesh's coordinates are in. It is part of the type: the wrong frame does not compile. */
export type Frame = 'scanner' | 'master' | 'tooth';

/** Indexed triangle mesh, millimetres. Triangles wind counter-clockwise seen from outside. */
export interface Mesh<F extends Frame = Frame> {
  readonly frame: F;
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

export const makeMesh = <F extends Frame>(frame: F, positions: Float64Array, triangles: Uint32Array): Mesh<F> => ({
  frame,
  positions,
  triangles,
});
export const vertexCount = (m: Mesh): number => m.positions.length / 3;
export const triangleCount = (m: Mesh): number => m.triangles.length / 3;

/** Every triangle the other way round. */
export const turnedOver = (t: Uint32Array): Uint32Array => t.map((_, h) => t[h - (h % 3) + [0, 2, 1][h % 3]]);

/** Moves a mesh into another frame; a reflecting matrix also turns the winding, so that outside stays outside. */
export function intoFrame<T extends Frame>(m: Mesh, matrix: Matrix, frame: T): Mesh<T> {
  const triangles = m.triangles.slice();
  if (determinant3(matrix) < 0)
    for (let i = 0; i < triangles.length; i += 3) [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2], triangles[i + 1]];
  return { frame, positions: transformPoints(matrix, m.positions), triangles };
}

/** Unit face normals (zero for a triangle without area) and face areas. */
export function faceNormals(m: Mesh): { normals: Float64Array; areas: Float64Array } {
  const { positions: p, triangles: t } = m;
  const n = t.length / 3;
  const normals = new Float64Array(n * 3);
  const areas = new Float64Array(n);
  for (let f = 0; f < n; f++) {
    const a = t[3 * f] * 3;
    const b = t[3 * f + 1] * 3;
    const c = t[3 * f + 2] * 3;
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const l = Math.sqrt(x * x + y * y + z * z);
    areas[f] = l / 2;
    if (l > 0) {
      normals[3 * f] = x / l;
      normals[3 * f + 1] = y / l;
      normals[3 * f + 2] = z / l;
    }
  }
  return { normals, areas };
}

/**
 * Angle-weighted vertex pseudo-normals (unit) and the area each vertex stands for (a third of its triangles'). Simulated scans follow them to the
 * last bit, and kept ones are known by their hash: another order of the same sums is another scan.
 */
export function vertexNormals(m: Mesh, faces = faceNormals(m)): { normals: Float64Array; areas: Float64Array } {
  const { positions: p, triangles: t } = m;
  const nv = p.length / 3;
  const normals = new Float64Array(nv * 3);
  const areas = new Float64Array(nv);
  for (let f = 0; f < t.length / 3; f++) {
    for (let k = 0; k < 3; k++) {
      const v = t[3 * f + k];
      const a = v * 3;
      const b = t[3 * f + ((k + 1) % 3)] * 3;
      const c = t[3 * f + ((k + 2) % 3)] * 3;
      const ux = p[b] - p[a];
      const uy = p[b + 1] - p[a + 1];
      const uz = p[b + 2] - p[a + 2];
      const vx = p[c] - p[a];
      const vy = p[c + 1] - p[a + 1];
      const vz = p[c + 2] - p[a + 2];
      const w = Math.atan2(2 * faces.areas[f], ux * vx + uy * vy + uz * vz);
      normals[a] += w * faces.normals[3 * f];
      normals[a + 1] += w * faces.normals[3 * f + 1];
      normals[a + 2] += w * faces.normals[3 * f + 2];
      areas[v] += faces.areas[f] / 3;
    }
  }
  for (let v = 0; v < nv; v++) {
    const l = Math.sqrt(normals[3 * v] ** 2 + normals[3 * v + 1] ** 2 + normals[3 * v + 2] ** 2);
    if (l > 0) for (let k = 0; k < 3; k++) normals[3 * v + k] /= l;
  }
  return { normals, areas };
}

/** The area each vertex stands for: a third of its triangles'. */
export function vertexAreas(m: Mesh, faces = faceNormals(m)): Float64Array {
  const areas = new Float64Array(vertexCount(m));
  for (let f = 0, h = 0; f < faces.areas.length; f++) {
    const third = faces.areas[f] / 3;
    areas[m.triangles[h++]] += third;
    areas[m.triangles[h++]] += third;
    areas[m.triangles[h++]] += third;
  }
  return areas;
}

/**
 * For each triangle side k (corner k to k+1) the triangle across it, or -1 on a border.
 * A side shared by more than two triangles pairs the first two found and leaves the others as border.
 */
export function triangleNeighbours(triangles: Uint32Array, nv: number): Int32Array {
  const nh = triangles.length;
  // Sides are told by their lower corner, which sorts them, and the other one.
  const lower = new Uint32Array(nh);
  const upper = new Uint32Array(nh);
  const start = new Uint32Array(nv + 1);
  for (let h = 0; h < nh; h++) {
    const v = triangles[h];
    const w = triangles[h % 3 === 2 ? h - 2 : h + 1];
    lower[h] = Math.min(v, w);
    upper[h] = Math.max(v, w);
    start[lower[h] + 1]++;
  }
  for (let v = 0; v < nv; v++) start[v + 1] += start[v];
  const fill = start.slice();
  const bucket = new Uint32Array(nh);
  for (let h = 0; h < nh; h++) bucket[fill[lower[h]]++] = h;
  const out = new Int32Array(nh).fill(-1);
  for (let i = 0; i < nh; i++) {
    const h = bucket[i];
    if (out[h] >= 0) continue;
    const far = upper[h];
    for (let j = i + 1, end = start[lower[h] + 1]; j < end; j++) {
      const g = bucket[j];
      if (upper[g] !== far || out[g] >= 0) continue;
      out[h] = (g / 3) | 0;
      out[g] = (h / 3) | 0;
      break;
    }
  }
  return out;
}

/** Vertices that lie on an open border. */
export function borderVertices(m: Mesh, neighbours = triangleNeighbours(m.triangles, vertexCount(m))): Uint8Array {
  const out = new Uint8Array(vertexCount(m));
  for (let h = 0; h < neighbours.length; h++)
    if (neighbours[h] < 0) {
      out[m.triangles[h]] = 1;
      out[m.triangles[h % 3 === 2 ? h - 2 : h + 1]] = 1;
    }
  return out;
}

/** The part of a mesh made of the triangles that `keep` accepts, with the vertex it came from for each of its vertices. */
export function subMesh<F extends Frame>(
  m: Mesh<F>,
  keep: (triangle: number) => boolean,
): { mesh: Mesh<F>; from: Uint32Array; triangleFrom: Uint32Array } {
  const map = new Int32Array(vertexCount(m)).fill(-1);
  const from = new Uint32Array(vertexCount(m));
  const triangles = new Uint32Array(m.triangles.length);
  const triangleFrom = new Uint32Array(triangleCount(m));
  let vertices = 0;
  let kept = 0;
  for (let f = 0; f < triangleFrom.length; f++) {
    if (!keep(f)) continue;
    for (let k = 0; k < 3; k++) {
      const v = m.triangles[3 * f + k];
      if (map[v] < 0) {
        map[v] = vertices;
        from[vertices++] = v;
      }
      triangles[3 * kept + k] = map[v];
    }
    triangleFrom[kept++] = f;
  }
  const positions = new Float64Array(vertices * 3);
  for (let i = 0; i < vertices; i++) for (let k = 0; k < 3; k++) positions[3 * i + k] = m.positions[3 * from[i] + k];
  return {
    mesh: { frame: m.frame, positions, triangles: triangles.slice(0, 3 * kept) },
    from: from.slice(0, vertices),
    triangleFrom: triangleFrom.slice(0, kept),
  };
}

export function bounds(positions: Float64Array): { min: [number, number, number]; max: [number, number, number] } {
  let [x0, y0, z0] = [Infinity, Infinity, Infinity];
  let [x1, y1, z1] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const x = positions[i];
    const y = positions[i + 1];
    const z = positions[i + 2];
    if (x < x0) x0 = x;
    if (y < y0) y0 = y;
    if (z < z0) z0 = z;
    if (x > x1) x1 = x;
    if (y > y1) y1 = y;
    if (z > z1) z1 = z;
  }
  return { min: [x0, y0, z0], max: [x1, y1, z1] };
}

/** Compact vertex → neighbour vertices table: those of vertex v are list[start[v] … start[v+1]). */
export function vertexAdjacency(m: Mesh): { start: Uint32Array; list: Uint32Array } {
  const nv = vertexCount(m);
  const t = m.triangles;
  const count = new Uint32Array(nv + 1);
  for (let h = 0; h < t.length; h++) count[t[h] + 1] += 2;
  for (let v = 0; v < nv; v++) count[v + 1] += count[v];
  const fill = count.slice();
  const raw = new Uint32Array(t.length * 2);
  for (let f = 0; f < t.length; f += 3) {
    const a = t[f];
    const b = t[f + 1];
    const c = t[f + 2];
    raw[fill[a]++] = b;
    raw[fill[a]++] = c;
    raw[fill[b]++] = c;
    raw[fill[b]++] = a;
    raw[fill[c]++] = a;
    raw[fill[c]++] = b;
  }
  const start = new Uint32Array(nv + 1);
  const list = new Uint32Array(raw.length);
  // The vertex that each vertex was last counted for, and one: two triangles name the same neighbour.
  const countedFor = new Uint32Array(nv);
  let n = 0;
  for (let v = 0; v < nv; v++) {
    start[v] = n;
    for (let i = count[v]; i < count[v + 1]; i++) {
      const w = raw[i];
      if (countedFor[w] === v + 1) continue;
      countedFor[w] = v + 1;
      list[n++] = w;
    }
  }
  start[nv] = n;
  return { start, list: list.slice(0, n) };
}
