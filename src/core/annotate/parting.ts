import type { Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import { type Mesh, vertexCount } from '../mesh/mesh.ts';
import { closestPoint, newClosest, pseudoNormal } from '../spatial/surface.ts';
import type { ArchFound, Found } from './arch.ts';
import { type Concavity, concavity } from './concavity.ts';
import { inTooth, toTemplate } from './fit.ts';
import { templateOf } from './template.ts';

export interface Parting {
  /** Part of each vertex: target, mesial and distal neighbour, gingiva, or another tooth. */
  readonly parts: Uint8Array;
  readonly concavity: Concavity;
  /** Share of the vertices about whose part two fronts were nearly even. */
  readonly unsure: number;
}

/** mm from the laid form within which a point that looks the same way surely is that tooth, and beyond which it surely is none. */
const SURELY = 0.3;
const FAR = 0.75;
/** Share of the crown's height from which gingiva is not met. */
const FREE = 0.3;
/** Share of half a tooth's size round its axis that counts as the ground it stands over; share of its height under which gingiva lies. */
const GROUND = 1.05;
const LOW = 0.25;
/** mm that a step of 1 mm across a hollow of 1/mm is as long as. */
const WALL = 60;
/** mm round the touched place that surely are the target. */
const TOUCHED = 0.8;
/** Cosine of 40°. */
const ALIKE = 0.77;

/**
 * Parts an arch into its teeth and the gingiva: from points that surely are one tooth's, by its usual form, and from points that lie far
 * from all teeth, fronts spread over the surface and are slowed by hollows, so that they meet in the valleys.
 * @source geodesic Voronoi parts with edge weights by concavity; own weights
 */
export function parting(mesh: Mesh, arch: ArchFound, touched: Vec3): Parting {
  const c = concavity(mesh);
  const n = vertexCount(mesh);
  const teeth: Found[] = [arch.target, ...arch.mesial, ...arch.distal];
  const GUM = teeth.length;
  const seeds = new Int16Array(n).fill(-1);
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  const p = mesh.positions;
  const far = new Uint8Array(n).fill(1);
  const over = new Uint8Array(n);
  teeth.forEach((f, k) => {
    const t = templateOf(f.tooth);
    const [a, b, z] = f.laid.axes;
    const size = (f.laid.size[0] + f.laid.size[1] + f.laid.size[2]) / 3;
    const round = Math.hypot(t.shape.plan.md, t.shape.plan.fl) / 2 + 3;
    for (let v = 0; v < n; v++) {
      const q = toTemplate(f.laid, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
      if (Math.abs(q[0]) > round || Math.abs(q[1]) > round) continue;
      // A crown that is shaped otherwise than usual may lie far from the form, but it stands over the same ground.
      if (Math.hypot(q[0] / (t.shape.plan.md / 2), q[1] / (t.shape.plan.fl / 2)) < GROUND && q[2] > 0) over[v] = 1;
      if (!closestPoint(t.surface, q[0], q[1], q[2], hit, FAR / size)) continue;
      far[v] = 0;
      if (Math.sqrt(hit.distanceSquared) * size > SURELY || q[2] < FREE * t.shape.plan.height) continue;
      pseudoNormal(t.surface, hit, normal);
      const own = [a, b, z].map((d) => d[0] * c.normals[3 * v] + d[1] * c.normals[3 * v + 1] + d[2] * c.normals[3 * v + 2]);
      if (own[0] * normal[0] + own[1] * normal[1] + own[2] * normal[2] > ALIKE) seeds[v] = k;
    }
  });
  const high = LOW * templateOf(arch.target.tooth).shape.plan.height * arch.target.laid.size[2];
  for (let v = 0; v < n; v++) {
    if (!far[v] || over[v]) continue;
    const z = inTooth(arch.target.laid, [p[3 * v], p[3 * v + 1], p[3 * v + 2]])[2];
    // What stands high beside all teeth that were found is a tooth that was not.
    if (z < high) seeds[v] = GUM;
    else if (z > 2 * high) seeds[v] = GUM + 1;
  }
  // What a person touched is the target, whatever its form.
  const away = (v: number): number => Math.hypot(p[3 * v] - touched[0], p[3 * v + 1] - touched[1], p[3 * v + 2] - touched[2]);
  let nearest = Infinity;
  for (let v = 0; v < n; v++) nearest = Math.min(nearest, away(v));
  for (let v = 0; v < n; v++) if (away(v) < nearest + TOUCHED) seeds[v] = 0;
  const { label, unsure } = fronts(mesh, c, seeds);
  const partOf = (k: number): number =>
    k === 0
      ? PART.target
      : k === GUM + 1
        ? PART.other
        : k === GUM || k < 0
          ? PART.gingiva
          : k === 1 && arch.mesial.length
            ? PART.mesial
            : k === 1 + arch.mesial.length && arch.distal.length
              ? PART.distal
              : PART.other;
  return { parts: whole(c, smoothedParts(c, Uint8Array.from(label, partOf))), concavity: c, unsure };
}

/** Every vertex goes to the seed whose way to it is the shortest; hollows lengthen ways. */
function fronts(mesh: Mesh, c: Concavity, seeds: Int16Array): { label: Int16Array; unsure: number } {
  const n = seeds.length;
  const label = Int16Array.from(seeds);
  const way = new Float64Array(n).fill(Infinity);
  const heap = new Heap();
  for (let v = 0; v < n; v++)
    if (seeds[v] >= 0) {
      way[v] = 0;
      heap.push(0, v);
    }
  const p = mesh.positions;
  const { start, list } = c.adjacency;
  while (heap.size) {
    const d = heap.least();
    const v = heap.pop();
    if (d > way[v]) continue;
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = list[i];
      const step = Math.hypot(p[3 * w] - p[3 * v], p[3 * w + 1] - p[3 * v + 1], p[3 * w + 2] - p[3 * v + 2]);
      const next = d + step * (1 + WALL * 0.5 * (c.hollow[v] + c.hollow[w]));
      if (next < way[w]) {
        way[w] = next;
        label[w] = label[v];
        heap.push(next, w);
      }
    }
  }
  // Where two fronts meet without a valley between them, the border could lie elsewhere.
  let border = 0;
  let open = 0;
  for (let v = 0; v < n; v++)
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = list[i];
      if (w < v || label[v] === label[w]) continue;
      border++;
      if (c.hollow[v] + c.hollow[w] < 0.3) open++;
    }
  return { label, unsure: border ? open / border : 1 };
}

/** Vertices whose neighbours mostly are another part follow them; twice. */
function smoothedParts(c: Concavity, parts: Uint8Array): Uint8Array {
  let own = parts;
  const { start, list } = c.adjacency;
  for (let pass = 0; pass < 2; pass++) {
    const next = own.slice();
    for (let v = 0; v < own.length; v++) {
      const count = [0, 0, 0, 0, 0];
      for (let i = start[v]; i < start[v + 1]; i++) count[own[list[i]]]++;
      const most = count.indexOf(Math.max(...count));
      if (count[most] > 0.6 * (start[v + 1] - start[v])) next[v] = most;
    }
    own = next;
  }
  return own;
}

/** Pieces of a tooth that hang together with the rest of it nowhere go to what lies round them. */
function whole(c: Concavity, parts: Uint8Array): Uint8Array {
  const { start, list } = c.adjacency;
  const piece = new Int32Array(parts.length).fill(-1);
  const sizes: number[] = [];
  for (let s = 0; s < parts.length; s++) {
    if (piece[s] >= 0) continue;
    const id = sizes.length;
    const stack = [s];
    piece[s] = id;
    let size = 0;
    while (stack.length) {
      const v = stack.pop() as number;
      size++;
      for (let i = start[v]; i < start[v + 1]; i++) {
        const w = list[i];
        if (piece[w] >= 0 || parts[w] !== parts[v]) continue;
        piece[w] = id;
        stack.push(w);
      }
    }
    sizes.push(size);
  }
  const largest = new Map<number, number>();
  for (let v = 0; v < parts.length; v++) if ((sizes[largest.get(parts[v]) ?? -1] ?? 0) < sizes[piece[v]]) largest.set(parts[v], piece[v]);
  const out = parts.slice();
  const single = (part: number): boolean => part === PART.target || part === PART.mesial || part === PART.distal;
  const loose = (v: number): boolean => (single(parts[v]) ? piece[v] !== largest.get(parts[v]) : sizes[piece[v]] < LOOSE);
  let open = Array.from(parts.keys()).filter(loose);
  // From their borders inward, each loose vertex takes the part of one beside it.
  while (open.length) {
    const rest: number[] = [];
    const done: [number, number][] = [];
    const isOpen = new Set(open);
    for (const v of open) {
      let part = -1;
      for (let i = start[v]; i < start[v + 1] && part < 0; i++) if (!isOpen.has(list[i])) part = out[list[i]];
      if (part < 0) rest.push(v);
      else done.push([v, part]);
    }
    for (const [v, part] of done) out[v] = part;
    if (done.length === 0) break;
    open = rest;
  }
  return out;
}

/** Vertices of a patch of gingiva or of another tooth that is none. */
const LOOSE = 60;

/** A binary heap of vertices by the length of their ways. */
class Heap {
  private keys: number[] = [];
  private items: number[] = [];
  get size(): number {
    return this.items.length;
  }
  least(): number {
    return this.keys[0];
  }
  push(key: number, item: number): void {
    const { keys, items } = this;
    let i = items.length;
    keys.push(key);
    items.push(item);
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (keys[up] <= key) break;
      keys[i] = keys[up];
      items[i] = items[up];
      i = up;
    }
    keys[i] = key;
    items[i] = item;
  }
  pop(): number {
    const { keys, items } = this;
    const first = items[0];
    const key = keys.pop() as number;
    const item = items.pop() as number;
    const n = items.length;
    if (n === 0) return first;
    let i = 0;
    for (;;) {
      let down = 2 * i + 1;
      if (down >= n) break;
      if (down + 1 < n && keys[down + 1] < keys[down]) down++;
      if (keys[down] >= key) break;
      keys[i] = keys[down];
      items[i] = items[down];
      i = down;
    }
    keys[i] = key;
    items[i] = item;
    return first;
  }
}
