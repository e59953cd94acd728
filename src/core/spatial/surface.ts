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

/**
 * Inner nodes only: each keeps the boxes of its two children side by side in single precision, rounded outwards, so that a
 * step down reads one stretch of memory and no triangle is missed.
 */
export interface Tree {
  /** Twelve numbers a node: left child's min xyz, max xyz, then the right child's. */
  readonly boxes: Float32Array;
  /** Two a node, left and right: an inner node's index, or −1 − the leaf's number. */
  readonly children: Int32Array;
  /** The root as `children` would name it. */
  readonly root: number;
  /** First slot of each leaf, and one past the last. */
  readonly leaves: Uint32Array;
  /** Eight numbers a leaf: the flat disc that holds its triangles (centre, axis, half thickness, radius), see `discOf`. */
  readonly discs: Float64Array;
  /** Triangle index of each slot. */
  readonly order: Uint32Array;
  /** Nine numbers a slot: the three corners. */
  readonly corners: Float64Array;
}

/** Triangles in a leaf: fewer make a deeper tree, more are tested one by one (measured with npm run bench). */
const LEAF = 8;
/** The next single-precision number at or below; negated, at or above. */
const below = (x: number): number => Math.fround(x - (Math.abs(x) * 1.2e-7 + 1e-37));
const above = (x: number): number => -below(-x);

export function makeTree(m: Mesh): Tree {
  const { positions: p, triangles: t } = m;
  const n = t.length / 3;
  // Each triangle's own box: least xyz, then largest xyz.
  const own = new Float64Array(n * 6);
  for (let f = 0; f < n; f++)
    for (let k = 0; k < 3; k++) {
      const a = p[t[3 * f] * 3 + k];
      const b = p[t[3 * f + 1] * 3 + k];
      const c = p[t[3 * f + 2] * 3 + k];
      own[6 * f + k] = Math.min(a, b, c);
      own[6 * f + 3 + k] = Math.max(a, b, c);
    }
  const order = new Uint32Array(n);
  for (let f = 0; f < n; f++) order[f] = f;
  const boxes = new Float32Array(12 * Math.max(1, n));
  const children = new Int32Array(2 * Math.max(1, n));
  const leaves: number[] = [];
  // Of the slots looked at: least and largest xyz of their boxes, then of twice their middles.
  const least = new Float64Array(6);
  const most = new Float64Array(6);
  let used = 0;

  /** Builds the node of slots from … to and writes its box at `at` (−1: nowhere); returns its name. */
  const build = (from: number, to: number, at: number): number => {
    least.fill(Infinity);
    most.fill(-Infinity);
    for (let i = from; i < to; i++) {
      const j = order[i] * 6;
      for (let k = 0; k < 3; k++) {
        const lo = own[j + k];
        const hi = own[j + 3 + k];
        if (lo < least[k]) least[k] = lo;
        if (hi > most[k]) most[k] = hi;
        const twice = lo + hi;
        if (twice < least[3 + k]) least[3 + k] = twice;
        if (twice > most[3 + k]) most[3 + k] = twice;
      }
    }
    if (at >= 0)
      for (let k = 0; k < 3; k++) {
        boxes[at + k] = below(least[k]);
        boxes[at + 3 + k] = above(most[k]);
      }
    if (to - from <= LEAF) return -leaves.push(from);
    let axis = 0;
    for (let k = 1; k < 3; k++) if (most[3 + k] - least[3 + k] > most[3 + axis] - least[3 + axis]) axis = k;
    const split = (least[3 + axis] + most[3 + axis]) / 2;
    let i = from;
    let j = to - 1;
    while (i <= j) {
      const s = order[i] * 6 + axis;
      if (own[s] + own[s + 3] < split) i++;
      else {
        const x = order[i];
        order[i] = order[j];
        order[j] = x;
        j--;
      }
    }
    // All centres in one place (or a very lopsided cut): halve by count, which always ends.
    if (i === from || i === to) i = (from + to) >> 1;
    const node = used++;
    children[2 * node] = build(from, i, 12 * node);
    children[2 * node + 1] = build(i, to, 12 * node + 6);
    return node;
  };
  const root = build(0, n, -1);
  leaves.push(n);
  const corners = new Float64Array(n * 9);
  for (let s = 0; s < n; s++)
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) corners[9 * s + 3 * c + k] = p[t[order[s] * 3 + c] * 3 + k];
  const discs = new Float64Array(8 * (leaves.length - 1));
  for (let l = 0; l + 1 < leaves.length; l++) discOf(corners, leaves[l], leaves[l + 1], discs, 8 * l);
  return {
    boxes: boxes.slice(0, used * 12),
    children: children.slice(0, used * 2),
    root,
    leaves: Uint32Array.from(leaves),
    discs,
    order,
    corners,
  };
}

/**
 * The flat disc round a leaf's triangles. Few neighbouring triangles lie nearly in a plane, but rarely in a level one: from a
 * millimetre away their upright box reaches towards the point where they do not, and a disc along their own plane does not.
 * It spares a search from inside a tooth three quarters of the triangles that it would look at.
 */
function discOf(c: Float64Array, from: number, to: number, discs: Float64Array, at: number): void {
  let nx = 0;
  let ny = 0;
  let nz = 0;
  let x = 0;
  let y = 0;
  let z = 0;
  for (let o = 9 * from; o < 9 * to; o += 9) {
    const ux = c[o + 3] - c[o];
    const uy = c[o + 4] - c[o + 1];
    const uz = c[o + 5] - c[o + 2];
    const vx = c[o + 6] - c[o];
    const vy = c[o + 7] - c[o + 1];
    const vz = c[o + 8] - c[o + 2];
    nx += uy * vz - uz * vy;
    ny += uz * vx - ux * vz;
    nz += ux * vy - uy * vx;
    x += c[o] + c[o + 3] + c[o + 6];
    y += c[o + 1] + c[o + 4] + c[o + 7];
    z += c[o + 2] + c[o + 5] + c[o + 8];
  }
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
  // Any axis will do: without area there is no normal.
  if (l > 0) {
    nx /= l;
    ny /= l;
    nz /= l;
  } else nz = 1;
  const n = Math.max(1, 3 * (to - from));
  x /= n;
  y /= n;
  z /= n;
  let thick = 0;
  let radius = 0;
  for (let o = 9 * from; o < 9 * to; o += 3) {
    const dx = c[o] - x;
    const dy = c[o + 1] - y;
    const dz = c[o + 2] - z;
    const along = dx * nx + dy * ny + dz * nz;
    thick = Math.max(thick, Math.abs(along));
    radius = Math.max(radius, dx * dx + dy * dy + dz * dz - along * along);
  }
  discs.set([x, y, z, nx, ny, nz, thick + ROUNDING, Math.sqrt(radius) + ROUNDING], at);
}

/** mm: what a sum of products of coordinates may lose. */
const ROUNDING = 1e-6;

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
    tree: makeTree(mesh),
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
      if (vc <= 0 && d1 >= 0 && d3 <= 0 && d1 > d3) {
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
          if (vb <= 0 && d2 >= 0 && d6 <= 0 && d2 > d6) {
            w = d2 / (d2 - d6);
            feature = 3;
          } else {
            const va = d3 * d6 - d5 * d4;
            if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0 && d4 - d3 + (d5 - d6) > 0) {
              w = (d4 - d3) / (d4 - d3 + (d5 - d6));
              v = 1 - w;
              feature = 2;
            } else {
              const s = va + vb + vc;
              // A sliver has no inside that rounding leaves anything of: its nearest side will do.
              if (!(s > SLIVER * (d1 - d3) * (d2 - d6))) return testSides(c, o, slot, px, py, pz, best);
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
  if (!(d < best.distanceSquared)) return false;
  best.distanceSquared = d;
  best.slot = slot;
  best.feature = feature;
  best.x = qx;
  best.y = qy;
  best.z = qz;
  return true;
}

/** Squared sine of the angle at a corner under which a triangle counts as a line. */
const SLIVER = 1e-12;

/** The same for a triangle that is no more than a line or a point: its sides one by one. */
function testSides(c: Float64Array, o: number, slot: number, px: number, py: number, pz: number, best: Closest): boolean {
  let nearer = false;
  for (let side = 0; side < 3; side++) {
    const a = o + 3 * side;
    const b = o + 3 * ((side + 1) % 3);
    const dx = c[b] - c[a];
    const dy = c[b + 1] - c[a + 1];
    const dz = c[b + 2] - c[a + 2];
    const l = dx * dx + dy * dy + dz * dz;
    const along = (px - c[a]) * dx + (py - c[a + 1]) * dy + (pz - c[a + 2]) * dz;
    const f = l > 0 ? Math.min(1, Math.max(0, along / l)) : 0;
    const x = c[a] + f * dx;
    const y = c[a + 1] + f * dy;
    const z = c[a + 2] + f * dz;
    const d = (px - x) ** 2 + (py - y) ** 2 + (pz - z) ** 2;
    if (!(d < best.distanceSquared)) continue;
    best.distanceSquared = d;
    best.slot = slot;
    best.feature = f === 0 ? 4 + side : f === 1 ? 4 + ((side + 1) % 3) : 1 + side;
    best.x = x;
    best.y = y;
    best.z = z;
    nearer = true;
  }
  return nearer;
}

const stack = new Int32Array(512);
const stackDistance = new Float64Array(512);

/**
 * Closest point of the surface to (x, y, z) within `limit` mm. `hint` is the slot of a likely answer (the neighbour
 * vertex's): its distance bounds the search from the start. Returns false when nothing lies within the limit.
 */
export function closestPoint(s: Surface, x: number, y: number, z: number, out: Closest, limit = Infinity, hint = -1): boolean {
  const { boxes, children, root, leaves, discs, order, corners } = s.tree;
  out.distanceSquared = limit * limit;
  out.slot = -1;
  if (hint >= 0) testTriangle(corners, hint, x, y, z, out);
  let top = 0;
  stack[0] = root;
  stackDistance[0] = 0;
  while (top >= 0) {
    const node = stack[top];
    if (stackDistance[top--] >= out.distanceSquared) continue;
    if (node < 0) {
      const leaf = -node - 1;
      const e = 8 * leaf;
      const vx = x - discs[e];
      const vy = y - discs[e + 1];
      const vz = z - discs[e + 2];
      const along = vx * discs[e + 3] + vy * discs[e + 4] + vz * discs[e + 5];
      const above = Math.max(0, Math.abs(along) - discs[e + 6]);
      const beside = Math.max(0, Math.sqrt(Math.max(0, vx * vx + vy * vy + vz * vz - along * along)) - discs[e + 7]);
      if (above * above + beside * beside >= out.distanceSquared) continue;
      for (let i = leaves[leaf]; i < leaves[leaf + 1]; i++) testTriangle(corners, i, x, y, z, out);
      continue;
    }
    const b = 12 * node;
    let dx = boxes[b] - x;
    if (dx < 0) {
      dx = x - boxes[b + 3];
      if (dx < 0) dx = 0;
    }
    let dy = boxes[b + 1] - y;
    if (dy < 0) {
      dy = y - boxes[b + 4];
      if (dy < 0) dy = 0;
    }
    let dz = boxes[b + 2] - z;
    if (dz < 0) {
      dz = z - boxes[b + 5];
      if (dz < 0) dz = 0;
    }
    const dl = dx * dx + dy * dy + dz * dz;
    dx = boxes[b + 6] - x;
    if (dx < 0) {
      dx = x - boxes[b + 9];
      if (dx < 0) dx = 0;
    }
    dy = boxes[b + 7] - y;
    if (dy < 0) {
      dy = y - boxes[b + 10];
      if (dy < 0) dy = 0;
    }
    dz = boxes[b + 8] - z;
    if (dz < 0) {
      dz = z - boxes[b + 11];
      if (dz < 0) dz = 0;
    }
    const dr = dx * dx + dy * dy + dz * dz;
    const nearer = dl <= dr ? 0 : 1;
    const near = nearer ? dr : dl;
    const far = nearer ? dl : dr;
    if (far < out.distanceSquared) {
      stack[++top] = children[2 * node + 1 - nearer];
      stackDistance[top] = far;
    }
    if (near < out.distanceSquared) {
      stack[++top] = children[2 * node + nearer];
      stackDistance[top] = near;
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
  s: { readonly tree: Tree },
  o: readonly [number, number, number],
  d: readonly [number, number, number],
  maximum = Infinity,
): number | null {
  const { boxes, children, root, leaves, corners } = s.tree;
  let best = maximum;
  let found = false;
  const ix = 1 / d[0];
  const iy = 1 / d[1];
  const iz = 1 / d[2];
  const meets = (b: number): boolean => {
    const x0 = (boxes[b] - o[0]) * ix;
    const x1 = (boxes[b + 3] - o[0]) * ix;
    const y0 = (boxes[b + 1] - o[1]) * iy;
    const y1 = (boxes[b + 4] - o[1]) * iy;
    const z0 = (boxes[b + 2] - o[2]) * iz;
    const z1 = (boxes[b + 5] - o[2]) * iz;
    const t0 = Math.max(0, Math.min(x0, x1), Math.min(y0, y1), Math.min(z0, z1));
    const t1 = Math.min(best, Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1));
    // Written so that a ray within a face of the box (0 × ∞, not a number) is looked into rather than past.
    return !(t0 > t1);
  };
  let top = 0;
  stack[0] = root;
  while (top >= 0) {
    const node = stack[top--];
    if (node >= 0) {
      if (meets(12 * node)) stack[++top] = children[2 * node];
      if (meets(12 * node + 6)) stack[++top] = children[2 * node + 1];
      continue;
    }
    for (let i = leaves[-node - 1]; i < leaves[-node]; i++) {
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
