import type { Mesh } from '../mesh/mesh.ts';

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
