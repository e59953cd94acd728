import type { Mesh } from '../mesh/mesh.ts';

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

export function makeTree(m: Mesh): Tree {
  const { positions: p, triangles: t } = m;
  const n = t.length / 3;
  // Twice the middle of each triangle's box. They are moved with their slots, so that each pass reads memory in one run.
  const middles = new Float64Array(3 * n);
  for (let f = 0; f < n; f++)
    for (let k = 0; k < 3; k++) {
      const a = p[3 * t[3 * f] + k];
      const b = p[3 * t[3 * f + 1] + k];
      const c = p[3 * t[3 * f + 2] + k];
      middles[3 * f + k] = Math.min(a, b, c) + Math.max(a, b, c);
    }
  const order = new Uint32Array(n);
  for (let f = 0; f < n; f++) order[f] = f;
  const boxes = new Float32Array(12 * Math.max(1, n));
  const children = new Int32Array(2 * Math.max(1, n));
  const leaves: number[] = [];
  // First slot of each inner node, and one past its last.
  const spans: number[] = [];
  let used = 0;

  const exchange = (i: number, j: number): void => {
    const f = order[i];
    order[i] = order[j];
    order[j] = f;
    for (let a = 3 * i, b = 3 * j, end = a + 3; a < end; a++, b++) {
      const x = middles[a];
      middles[a] = middles[b];
      middles[b] = x;
    }
  };

  /** Writes the box of a leaf's triangles at `at`. */
  const boxOfLeaf = (from: number, to: number, at: number): void => {
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
  };

  /** Builds the node of slots from … to and writes its box at `at` (−1: nowhere); returns its name. */
  const build = (from: number, to: number, at: number): number => {
    if (to - from <= LEAF) {
      if (at >= 0) boxOfLeaf(from, to, at);
      return -leaves.push(from);
    }
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
    const axis = z1 - z0 > Math.max(x1 - x0, y1 - y0) ? 2 : y1 - y0 > x1 - x0 ? 1 : 0;
    const split = (axis === 0 ? x0 + x1 : axis === 1 ? y0 + y1 : z0 + z1) / 2;
    let i = from;
    let j = to - 1;
    while (i <= j) {
      if (middles[3 * i + axis] < split) i++;
      else exchange(i, j--);
    }
    // All middles in one place (or a very lopsided cut): halve by count, which always ends.
    if (i === from || i === to) i = (from + to) >> 1;
    const node = used++;
    spans.push(from, to);
    const o = 12 * node;
    children[2 * node] = build(from, i, o);
    children[2 * node + 1] = build(i, to, o + 6);
    if (at >= 0)
      for (let k = 0; k < 3; k++) {
        boxes[at + k] = Math.min(boxes[o + k], boxes[o + 6 + k]);
        boxes[at + 3 + k] = Math.max(boxes[o + 3 + k], boxes[o + 9 + k]);
      }
    return node;
  };
  const root = build(0, n, -1);
  leaves.push(n);
  const corners = new Float64Array(n * 9);
  for (let s = 0; s < n; s++)
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) corners[9 * s + 3 * c + k] = p[t[order[s] * 3 + c] * 3 + k];
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
