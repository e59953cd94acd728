import { forgetFlat } from '../mesh/flat-faces.ts';
import { borderVertices, type Frame, faceNormals, type Mesh, triangleNeighbours, vertexCount, vertexNormals } from '../mesh/mesh.ts';
import { makeTree, type Tree } from './tree.ts';

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

export function makeSurface<F extends Frame>(mesh: Mesh<F>): Surface<F> {
  const faces = faceNormals(mesh);
  forgetFlat(mesh, faces);
  const vertices = vertexNormals(mesh, faces);
  const neighbours = triangleNeighbours(mesh.triangles, vertexCount(mesh));
  return {
    mesh,
    faceNormals: faces.normals,
    vertexNormals: vertices.normals,
    vertexAreas: vertices.areas,
    neighbours,
    borderVertex: borderVertices(mesh, neighbours),
    tree: makeTree(mesh, faces.normals),
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

/** No point yet. Coordinates begin as no whole numbers: the engine would lay them out as such, and leave its compiled searches when a fraction came. */
export const newClosest = (): Closest => ({
  distanceSquared: Infinity,
  triangle: -1,
  slot: -1,
  feature: 0,
  x: Infinity,
  y: Infinity,
  z: Infinity,
});

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

/** Whether the disc at `e` lies as far from a point as the root of `squared` or farther. */
function isBeyond(discs: Float64Array, e: number, x: number, y: number, z: number, squared: number): boolean {
  const vx = x - discs[e];
  const vy = y - discs[e + 1];
  const vz = z - discs[e + 2];
  const along = vx * discs[e + 3] + vy * discs[e + 4] + vz * discs[e + 5];
  // From inside a tooth most discs are far enough by their plane alone, and no root has to be drawn.
  const above = Math.abs(along) - discs[e + 6];
  const plane = above > 0 ? above * above : 0;
  if (plane >= squared) return true;
  const beside = Math.sqrt(Math.max(0, vx * vx + vy * vy + vz * vz - along * along)) - discs[e + 7];
  return beside > 0 && plane + beside * beside >= squared;
}

const stack = new Int32Array(512);
const stackDistance = new Float64Array(512);

/**
 * Closest point of the surface to (x, y, z) within `limit` mm. `hint` is the slot of a likely answer (the neighbour
 * vertex's): its distance bounds the search from the start. Returns false when nothing lies within the limit.
 */
export function closestPoint(s: Surface, x: number, y: number, z: number, out: Closest, limit = Infinity, hint = -1): boolean {
  const { boxes, children, root, leaves, discs, nodeDiscs, order, corners } = s.tree;
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
      if (isBeyond(discs, 8 * leaf, x, y, z, out.distanceSquared)) continue;
      for (let i = leaves[leaf]; i < leaves[leaf + 1]; i++) testTriangle(corners, i, x, y, z, out);
      continue;
    }
    if (nodeDiscs[8 * node + 6] >= 0 && isBeyond(nodeDiscs, 8 * node, x, y, z, out.distanceSquared)) continue;
    // Along each axis a point lies outside of a box by t where that is positive: t + |t| is twice as much, and needs no branch.
    const b = 12 * node;
    let tx = Math.abs(x - boxes[b]) - boxes[b + 3];
    let ty = Math.abs(y - boxes[b + 1]) - boxes[b + 4];
    let tz = Math.abs(z - boxes[b + 2]) - boxes[b + 5];
    tx += Math.abs(tx);
    ty += Math.abs(ty);
    tz += Math.abs(tz);
    const dl = 0.25 * (tx * tx + ty * ty + tz * tz);
    tx = Math.abs(x - boxes[b + 6]) - boxes[b + 9];
    ty = Math.abs(y - boxes[b + 7]) - boxes[b + 10];
    tz = Math.abs(z - boxes[b + 8]) - boxes[b + 11];
    tx += Math.abs(tx);
    ty += Math.abs(ty);
    tz += Math.abs(tz);
    const dr = 0.25 * (tx * tx + ty * ty + tz * tz);
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

/** Pseudo-normal at a closest point (face, side or corner) into `n`, of length 1. @source Bærentzen & Aanæs (2005) */
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
    if (g < 0) return;
    for (let k = 0; k < 3; k++) n[k] += s.faceNormals[3 * g + k];
    const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    // Two faces folded flat on each other have no direction between them.
    for (let k = 0; k < 3; k++) n[k] = l > 1e-9 ? n[k] / l : s.faceNormals[f + k];
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
