import { faceNormals, type Mesh } from '../mesh/mesh.ts';

/**
 * Inner nodes only: each keeps the boxes of its two children side by side in single precision, rounded outwards, so that a
 * step down reads one stretch of memory and no triangle is missed.
 */
export interface Tree {
  /** Twelve numbers a node: the left child's middle xyz and half extent xyz, then the right child's. */
  readonly boxes: Float32Array;
  /** Two a node, left and right: an inner node's index, or −1 − the leaf's number. */
  readonly children: Int32Array;
  /** The root as `children` would name it. */
  readonly root: number;
  /** First slot of each leaf, and one past the last. */
  readonly leaves: Uint32Array;
  /** Eight numbers a leaf: the flat disc that holds its triangles (centre, axis, half thickness, radius), see `discOf`. */
  readonly discs: Float64Array;
  /** The same for each inner node of few triangles; half thickness −1 for one of many, which no flat disc would hold. */
  readonly nodeDiscs: Float64Array;
  /** Triangle index of each slot. */
  readonly order: Uint32Array;
  /** Nine numbers a slot: the three corners. */
  readonly corners: Float64Array;
}

/** Triangles up to which an inner node is given a disc: surface of a millimetre's width, still nearly flat (measured with npm run bench). */
const FLAT = 64;
/** Triangles in a leaf: fewer make a deeper tree, more are tested one by one (measured with npm run bench). */
const LEAF = 8;
/** The next single-precision number at or below; negated, at or above. */
const below = (x: number): number => Math.fround(x - (Math.abs(x) * 1.2e-7 + 1e-37));
const above = (x: number): number => -below(-x);

/** `normals` are the faces': one without a direction is a line along its neighbours' sides, which say more about that place, and is left out. */
export function makeTree(m: Mesh, normals = faceNormals(m).normals): Tree {
  const order = facesWithNormal(normals);
  const n = order.length;
  const middles = middlesOf(m, order);
  const boxes = new Float32Array(12 * Math.max(1, n));
  const children = new Int32Array(2 * Math.max(1, n));
  const leaves: number[] = [];
  // First slot of each inner node, and one past its last.
  const spans: number[] = [];
  let used = 0;

  /** Builds the node of slots from … to and writes its box at `at` (−1: nowhere); returns its name. */
  const build = (from: number, to: number, at: number): number => {
    if (to - from <= LEAF) {
      if (at >= 0) boxOfLeaf(m, order, from, to, boxes, at);
      return -leaves.push(from);
    }
    const middle = divide(middles, order, from, to);
    const node = used++;
    spans.push(from, to);
    const o = 12 * node;
    children[2 * node] = build(from, middle, o);
    children[2 * node + 1] = build(middle, to, o + 6);
    if (at >= 0) boxOfNode(boxes, o, at);
    return node;
  };
  const root = build(0, n, -1);
  leaves.push(n);
  const corners = cornersOf(m, order);
  const discs = new Float64Array(8 * (leaves.length - 1));
  for (let l = 0; l + 1 < leaves.length; l++) discOf(corners, leaves[l], leaves[l + 1], discs, 8 * l);
  const nodeDiscs = new Float64Array(8 * used);
  for (let i = 0; i < used; i++)
    if (spans[2 * i + 1] - spans[2 * i] <= FLAT) discOf(corners, spans[2 * i], spans[2 * i + 1], nodeDiscs, 8 * i);
    else nodeDiscs[8 * i + 6] = -1;
  return {
    boxes: aboutMiddles(boxes.subarray(0, used * 12)),
    children: children.slice(0, used * 2),
    root,
    leaves: Uint32Array.from(leaves),
    discs,
    nodeDiscs,
    order,
    corners,
  };
}

function facesWithNormal(normals: Float64Array): Uint32Array {
  const faces = new Uint32Array(normals.length / 3);
  let n = 0;
  for (let f = 0; f < faces.length; f++) if (normals[3 * f] !== 0 || normals[3 * f + 1] !== 0 || normals[3 * f + 2] !== 0) faces[n++] = f;
  return faces.slice(0, n);
}

/** Twice the middle of the box of each slot's triangle. They are moved with their slots, so that each pass over a node reads memory in one run. */
function middlesOf({ positions: p, triangles: t }: Mesh, order: Uint32Array): Float64Array {
  const middles = new Float64Array(3 * order.length);
  for (let s = 0; s < order.length; s++)
    for (let h = 3 * order[s], k = 0; k < 3; k++) {
      const a = p[3 * t[h] + k];
      const b = p[3 * t[h + 1] + k];
      const c = p[3 * t[h + 2] + k];
      middles[3 * s + k] = Math.min(a, b, c) + Math.max(a, b, c);
    }
  return middles;
}

/** The corners of the triangles in their slots' order, nine numbers each. */
export function cornersOf({ positions: p, triangles: t }: Mesh, order: Uint32Array): Float64Array {
  const corners = new Float64Array(9 * order.length);
  for (let s = 0, o = 0; s < order.length; s++)
    for (let h = 3 * order[s], end = h + 3; h < end; h++, o += 3) {
      const v = 3 * t[h];
      corners[o] = p[v];
      corners[o + 1] = p[v + 1];
      corners[o + 2] = p[v + 2];
    }
  return corners;
}

// What follows runs for every node. Each is a function of its own with little after its loop: V8 compiles a loop while it runs for the
// first time and leaves that code again, at a high price, wherever it meets something that has not run before.

/** Least and largest middle of the slots from … to, xyz each. */
function spanOf(middles: Float64Array, from: number, to: number, span: Float64Array): void {
  let x0 = Infinity;
  let y0 = Infinity;
  let z0 = Infinity;
  let x1 = -Infinity;
  let y1 = -Infinity;
  let z1 = -Infinity;
  for (let o = 3 * from; o < 3 * to; o += 3) {
    const x = middles[o];
    const y = middles[o + 1];
    const z = middles[o + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  span[0] = x0;
  span[1] = y0;
  span[2] = z0;
  span[3] = x1;
  span[4] = y1;
  span[5] = z1;
}

const span = new Float64Array(6);

/** Sorts the slots from … to about the middle of their longest side; returns the first slot of the second part. */
function divide(middles: Float64Array, order: Uint32Array, from: number, to: number): number {
  spanOf(middles, from, to, span);
  const x = span[3] - span[0];
  const y = span[4] - span[1];
  const z = span[5] - span[2];
  const axis = z > Math.max(x, y) ? 2 : y > x ? 1 : 0;
  const i = partition(middles, order, from, to, axis, (span[axis] + span[axis + 3]) / 2);
  // All middles in one place (or a very lopsided cut): halve by count, which always ends.
  return i === from || i === to ? (from + to) >> 1 : i;
}

/** Brings slots whose middle lies below `split` along `axis` before the others; returns the first of the others. */
function partition(middles: Float64Array, order: Uint32Array, from: number, to: number, axis: number, split: number): number {
  let i = from;
  let j = to - 1;
  while (i <= j) {
    if (middles[3 * i + axis] < split) {
      i++;
      continue;
    }
    const f = order[i];
    order[i] = order[j];
    order[j] = f;
    for (let a = 3 * i, b = 3 * j, end = a + 3; a < end; a++, b++) {
      const x = middles[a];
      middles[a] = middles[b];
      middles[b] = x;
    }
    j--;
  }
  return i;
}

/** Writes the box of a leaf's triangles at `at`: their least corner, then their largest. */
function boxOfLeaf(
  { positions: p, triangles: t }: Mesh,
  order: Uint32Array,
  from: number,
  to: number,
  boxes: Float32Array,
  at: number,
): void {
  for (let k = 0; k < 3; k++) {
    let least = Infinity;
    let most = -Infinity;
    for (let i = from; i < to; i++)
      for (let h = 3 * order[i], end = h + 3; h < end; h++) {
        const x = p[3 * t[h] + k];
        if (x < least) least = x;
        if (x > most) most = x;
      }
    boxes[at + k] = below(least);
    boxes[at + 3 + k] = above(most);
  }
}

/** Writes the box round a node's two children, which stand at `o`, at `at`. */
function boxOfNode(boxes: Float32Array, o: number, at: number): void {
  for (let k = 0; k < 3; k++) {
    boxes[at + k] = Math.min(boxes[o + k], boxes[o + 6 + k]);
    boxes[at + 3 + k] = Math.max(boxes[o + 3 + k], boxes[o + 9 + k]);
  }
}

/** Boxes from their least and largest corners, as middles and half extents: how far a point lies outside is then told without a branch. */
function aboutMiddles(corners: Float32Array): Float32Array {
  const boxes = new Float32Array(corners.length);
  for (let o = 0; o < boxes.length; o += 6)
    for (let k = 0; k < 3; k++) {
      const least = corners[o + k];
      const most = corners[o + 3 + k];
      boxes[o + k] = (least + most) / 2;
      boxes[o + 3 + k] = above(Math.max(most - boxes[o + k], boxes[o + k] - least));
    }
  return boxes;
}

/**
 * The flat disc round a run of triangles. Few neighbouring triangles lie nearly in a plane, but rarely in a level one: from a
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
