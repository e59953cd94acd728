import { borderVertices, type Frame, faceNormals, type Mesh, triangleNeighbours, vertexCount, vertexNormals } from '../mesh/mesh.ts';

/**
 * Closest-point queries on a triangle mesh: a bounding-box tree kept in flat typed arrays, with the triangles' corners
 * copied in leaf order. Own code rather than the library's: see docs/decisions/0002-own-closest-point-tree.md.
 */
export interface Surface<F extends Frame = Frame> {
  readonly mesh: Mesh<F>;
  /** Unit face normals, three a triangle. */
  readonly faceNormals: Float64Array;
  readonly vertexNormals: Float64Array;
  readonly vertexAreas: Float64Array;
  readonly neighbours: Int32Array;
  /** 1 for vertices on an open border. */
  readonly borderVertex: Uint8Array;
  readonly tree: Tree;
}

interface Tree {
  /** Six numbers a node: min xyz, max xyz. */
  readonly box: Float64Array;
  /** Leaf: first slot; inner: index of the right child (the left one follows its parent). */
  readonly link: Uint32Array;
  /** Leaf: number of triangles; inner: 0. */
  readonly count: Uint8Array;
  /** Triangle index of each slot. */
  readonly order: Uint32Array;
  /** Nine numbers a slot: the three corners. */
  readonly corners: Float64Array;
}

const LEAF = 4;

function buildTree(m: Mesh): Tree {
  const { positions: p, triangles: t } = m;
  const n = t.length / 3;
  const centre = new Float64Array(n * 3);
  const lo = new Float64Array(n * 3);
  const hi = new Float64Array(n * 3);
  for (let f = 0; f < n; f++)
    for (let k = 0; k < 3; k++) {
      const a = p[t[3 * f] * 3 + k];
      const b = p[t[3 * f + 1] * 3 + k];
      const c = p[t[3 * f + 2] * 3 + k];
      lo[3 * f + k] = Math.min(a, b, c);
      hi[3 * f + k] = Math.max(a, b, c);
      centre[3 * f + k] = (lo[3 * f + k] + hi[3 * f + k]) / 2;
    }
  const order = Uint32Array.from({ length: n }, (_, i) => i);
  const cap = Math.max(1, 2 * n);
  const box = new Float64Array(cap * 6);
  const link = new Uint32Array(cap);
  const count = new Uint8Array(cap);
  let used = 0;

  const build = (from: number, to: number): void => {
    const node = used++;
    const b = node * 6;
    const c0 = [Infinity, Infinity, Infinity];
    const c1 = [-Infinity, -Infinity, -Infinity];
    for (let k = 0; k < 3; k++) {
      let mn = Infinity;
      let mx = -Infinity;
      let cmn = Infinity;
      let cmx = -Infinity;
      for (let i = from; i < to; i++) {
        const j = order[i] * 3 + k;
        if (lo[j] < mn) mn = lo[j];
        if (hi[j] > mx) mx = hi[j];
        if (centre[j] < cmn) cmn = centre[j];
        if (centre[j] > cmx) cmx = centre[j];
      }
      box[b + k] = mn;
      box[b + 3 + k] = mx;
      c0[k] = cmn;
      c1[k] = cmx;
    }
    if (to - from <= LEAF) {
      link[node] = from;
      count[node] = to - from;
      return;
    }
    let axis = 0;
    for (let k = 1; k < 3; k++) if (c1[k] - c0[k] > c1[axis] - c0[axis]) axis = k;
    const split = (c0[axis] + c1[axis]) / 2;
    let i = from;
    let j = to - 1;
    while (i <= j) {
      if (centre[order[i] * 3 + axis] < split) i++;
      else {
        const x = order[i];
        order[i] = order[j];
        order[j] = x;
        j--;
      }
    }
    // All centres in one place (or a very lopsided cut): halve by count, which always ends.
    if (i === from || i === to) i = (from + to) >> 1;
    build(from, i);
    link[node] = used;
    build(i, to);
  };
  if (n > 0) build(0, n);
  const corners = new Float64Array(n * 9);
  for (let s = 0; s < n; s++)
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) corners[9 * s + 3 * c + k] = p[t[order[s] * 3 + c] * 3 + k];
  return { box: box.slice(0, used * 6), link: link.slice(0, used), count: count.slice(0, used), order, corners };
}

export function makeSurface<F extends Frame>(mesh: Mesh<F>): Surface<F> {
  const faces = faceNormals(mesh);
  const vertices = vertexNormals(mesh, faces);
  const neighbours = triangleNeighbours(mesh.triangles, vertexCount(mesh));
  return {
    mesh,
    faceNormals: faces.normals,
    vertexNormals: vertices.normals,
    vertexAreas: vertices.areas,
    neighbours,
    borderVertex: borderVertices(mesh, neighbours),
    tree: buildTree(mesh),
  };
}

/** Where on the triangle the closest point lies: 0 inside, 1–3 on side k−1 (corner k−1 to k), 4–6 at corner k−4. */
export interface Closest {
  distanceSquared: number;
  triangle: number;
  slot: number;
  feature: number;
  x: number;
  y: number;
  z: number;
}

export const newClosest = (): Closest => ({ distanceSquared: Infinity, triangle: -1, slot: -1, feature: 0, x: 0, y: 0, z: 0 });

/** Tests one triangle; writes into `best` when nearer. @source Ericson, Real-Time Collision Detection, 5.1.5 */
function testTriangle(c: Float64Array, slot: number, px: number, py: number, pz: number, best: Closest): boolean {
  const o = 9 * slot;
  const ax = c[o],
    ay = c[o + 1],
    az = c[o + 2];
  const abx = c[o + 3] - ax,
    aby = c[o + 4] - ay,
    abz = c[o + 5] - az;
  const acx = c[o + 6] - ax,
    acy = c[o + 7] - ay,
    acz = c[o + 8] - az;
  const apx = px - ax,
    apy = py - ay,
    apz = pz - az;
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  let v = 0,
    w = 0,
    feature = 0;
  if (d1 <= 0 && d2 <= 0) feature = 4;
  else {
    const bpx = apx - abx,
      bpy = apy - aby,
      bpz = apz - abz;
    const d3 = abx * bpx + aby * bpy + abz * bpz;
    const d4 = acx * bpx + acy * bpy + acz * bpz;
    if (d3 >= 0 && d4 <= d3) {
      v = 1;
      feature = 5;
    } else {
      const vc = d1 * d4 - d3 * d2;
      if (vc <= 0 && d1 >= 0 && d3 <= 0) {
        v = d1 / (d1 - d3);
        feature = 1;
      } else {
        const cpx = apx - acx,
          cpy = apy - acy,
          cpz = apz - acz;
        const d5 = abx * cpx + aby * cpy + abz * cpz;
        const d6 = acx * cpx + acy * cpy + acz * cpz;
        if (d6 >= 0 && d5 <= d6) {
          w = 1;
          feature = 6;
        } else {
          const vb = d5 * d2 - d1 * d6;
          if (vb <= 0 && d2 >= 0 && d6 <= 0) {
            w = d2 / (d2 - d6);
            feature = 3;
          } else {
            const va = d3 * d6 - d5 * d4;
            if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
              w = (d4 - d3) / (d4 - d3 + (d5 - d6));
              v = 1 - w;
              feature = 2;
            } else {
              const s = va + vb + vc;
              if (!(s > 0)) return false;
              v = vb / s;
              w = vc / s;
            }
          }
        }
      }
    }
  }
  const qx = ax + abx * v + acx * w,
    qy = ay + aby * v + acy * w,
    qz = az + abz * v + acz * w;
  const dx = px - qx,
    dy = py - qy,
    dz = pz - qz;
  const d = dx * dx + dy * dy + dz * dz;
  if (d >= best.distanceSquared) return false;
  best.distanceSquared = d;
  best.slot = slot;
  best.feature = feature;
  best.x = qx;
  best.y = qy;
  best.z = qz;
  return true;
}

const stack = new Uint32Array(512);
const stackDistance = new Float64Array(512);

/**
 * Closest point of the surface to (x, y, z) within `limit` mm. `hint` is the slot of a likely answer (the neighbour
 * vertex's): its distance bounds the search from the start. Returns false when nothing lies within the limit.
 */
export function closestPoint(s: Surface, x: number, y: number, z: number, out: Closest, limit = Infinity, hint = -1): boolean {
  const { box, link, count, order, corners } = s.tree;
  out.distanceSquared = limit * limit;
  out.slot = -1;
  if (link.length === 0) return false;
  if (hint >= 0) testTriangle(corners, hint, x, y, z, out);
  let top = 0;
  stack[0] = 0;
  stackDistance[0] = 0;
  while (top >= 0) {
    const node = stack[top];
    if (stackDistance[top--] >= out.distanceSquared) continue;
    const n = count[node];
    if (n > 0) {
      const first = link[node];
      for (let i = first; i < first + n; i++) testTriangle(corners, i, x, y, z, out);
      continue;
    }
    const l = node + 1;
    const r = link[node];
    let b = l * 6;
    let dx = Math.max(box[b] - x, 0, x - box[b + 3]);
    let dy = Math.max(box[b + 1] - y, 0, y - box[b + 4]);
    let dz = Math.max(box[b + 2] - z, 0, z - box[b + 5]);
    const dl = dx * dx + dy * dy + dz * dz;
    b = r * 6;
    dx = Math.max(box[b] - x, 0, x - box[b + 3]);
    dy = Math.max(box[b + 1] - y, 0, y - box[b + 4]);
    dz = Math.max(box[b + 2] - z, 0, z - box[b + 5]);
    const dr = dx * dx + dy * dy + dz * dz;
    const near = dl <= dr ? l : r;
    const far = dl <= dr ? r : l;
    const dn = Math.min(dl, dr);
    const df = Math.max(dl, dr);
    if (df < out.distanceSquared) {
      stack[++top] = far;
      stackDistance[top] = df;
    }
    if (dn < out.distanceSquared) {
      stack[++top] = near;
      stackDistance[top] = dn;
    }
  }
  if (out.slot < 0) return false;
  out.triangle = order[out.slot];
  return true;
}

/** The closest point again, where an earlier search from the same place has told its slot; −1 searches. */
export function closestAgain(s: Surface, x: number, y: number, z: number, slot: number, out: Closest): boolean {
  if (slot < 0) return closestPoint(s, x, y, z, out);
  out.distanceSquared = Infinity;
  if (!testTriangle(s.tree.corners, slot, x, y, z, out)) return closestPoint(s, x, y, z, out);
  out.triangle = s.tree.order[slot];
  return true;
}

/** Pseudo-normal at a closest point (face, side or corner) into `n`. @source Bærentzen & Aanæs (2005) */
export function pseudoNormal(s: Surface, c: Closest, n: [number, number, number]): void {
  const f = 3 * c.triangle;
  if (c.feature >= 4) {
    const v = 3 * s.mesh.triangles[f + c.feature - 4];
    for (let k = 0; k < 3; k++) n[k] = s.vertexNormals[v + k];
    return;
  }
  for (let k = 0; k < 3; k++) n[k] = s.faceNormals[f + k];
  if (c.feature > 0) {
    const g = s.neighbours[f + c.feature - 1];
    if (g >= 0) for (let k = 0; k < 3; k++) n[k] += s.faceNormals[3 * g + k];
  }
}

/** True when the closest point lies on an open border: the distance then says nothing about inside and outside. */
export function onBorder(s: Surface, c: Closest): boolean {
  const f = 3 * c.triangle;
  if (c.feature === 0) return false;
  if (c.feature <= 3) return s.neighbours[f + c.feature - 1] < 0;
  return s.borderVertex[s.mesh.triangles[f + c.feature - 4]] === 1;
}

const scratch = newClosest();
const normal: [number, number, number] = [0, 0, 0];

/** Signed distance, positive outside, negative inside; NaN-free: null when nothing lies within the limit. */
export function signedDistance(s: Surface, x: number, y: number, z: number, limit = Infinity): number | null {
  if (!closestPoint(s, x, y, z, scratch, limit)) return null;
  return signOf(s, scratch, x, y, z) * Math.sqrt(scratch.distanceSquared);
}

export function signOf(s: Surface, c: Closest, x: number, y: number, z: number): number {
  pseudoNormal(s, c, normal);
  return (x - c.x) * normal[0] + (y - c.y) * normal[1] + (z - c.z) * normal[2] >= 0 ? 1 : -1;
}

/** First hit of a ray (unit direction) with the surface: its distance, or null. */
export function castRay(
  s: Surface,
  o: readonly [number, number, number],
  d: readonly [number, number, number],
  maximum = Infinity,
): number | null {
  const { box, link, count, corners } = s.tree;
  if (link.length === 0) return null;
  let best = maximum;
  let found = false;
  const inv = [1 / d[0], 1 / d[1], 1 / d[2]];
  let top = 0;
  stack[0] = 0;
  while (top >= 0) {
    const node = stack[top--];
    const b = node * 6;
    let t0 = 0;
    let t1 = best;
    for (let k = 0; k < 3; k++) {
      let a = (box[b + k] - o[k]) * inv[k];
      let c = (box[b + 3 + k] - o[k]) * inv[k];
      if (a > c) [a, c] = [c, a];
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
    }
    if (t0 > t1) continue;
    const n = count[node];
    if (n === 0) {
      stack[++top] = node + 1;
      stack[++top] = link[node];
      continue;
    }
    for (let i = link[node]; i < link[node] + n; i++) {
      const t = rayTriangle(corners, 9 * i, o, d);
      if (t !== null && t < best) {
        best = t;
        found = true;
      }
    }
  }
  return found ? best : null;
}

/** Share of a triangle by which it is widened against rays: one along a shared side must not slip between both of its triangles. */
const EDGE_SLACK = 1e-9;

/** @source Möller & Trumbore (1997) */
function rayTriangle(c: Float64Array, o: number, p: readonly number[], d: readonly number[]): number | null {
  const e1x = c[o + 3] - c[o],
    e1y = c[o + 4] - c[o + 1],
    e1z = c[o + 5] - c[o + 2];
  const e2x = c[o + 6] - c[o],
    e2y = c[o + 7] - c[o + 1],
    e2z = c[o + 8] - c[o + 2];
  const hx = d[1] * e2z - d[2] * e2y,
    hy = d[2] * e2x - d[0] * e2z,
    hz = d[0] * e2y - d[1] * e2x;
  const a = e1x * hx + e1y * hy + e1z * hz;
  if (Math.abs(a) < 1e-14) return null;
  const sx = p[0] - c[o],
    sy = p[1] - c[o + 1],
    sz = p[2] - c[o + 2];
  const u = (sx * hx + sy * hy + sz * hz) / a;
  if (u < -EDGE_SLACK || u > 1 + EDGE_SLACK) return null;
  const qx = sy * e1z - sz * e1y,
    qy = sz * e1x - sx * e1z,
    qz = sx * e1y - sy * e1x;
  const v = (d[0] * qx + d[1] * qy + d[2] * qz) / a;
  if (v < -EDGE_SLACK || u + v > 1 + EDGE_SLACK) return null;
  const t = (e2x * qx + e2y * qy + e2z * qz) / a;
  return t > 1e-9 ? t : null;
}
