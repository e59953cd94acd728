import { bounds } from '../mesh/mesh.ts';
import type { Surface } from './surface.ts';

/**
 * Which vertex of a surface is nearest, tabulated on a grid of cells: one look-up instead of a search, good to about a
 * cell. Made for trying thousands of poses; the last word is always `closestPoint`'s.
 */
export interface NearestField {
  readonly cell: number;
  readonly origin: readonly [number, number, number];
  readonly size: readonly [number, number, number];
  /** Vertex index a cell. */
  readonly vertex: Int32Array;
  readonly surface: Surface;
}

/** mm beyond the surface's bounds that the field covers. */
const AROUND = 6;
const CELLS = 300_000;
/** mm of a cell at the least: finer ones find no more poses (120 of 120 with 0.6, 0.8 and 1 mm), coarser ones lay a scan of two preparations one tooth on. */
const FINEST = 0.8;

const known = new WeakMap<Surface, NearestField>();

export function nearestField(s: Surface): NearestField {
  let field = known.get(s);
  if (!field) {
    field = build(s);
    known.set(s, field);
  }
  return field;
}

function build(s: Surface): NearestField {
  const p = s.mesh.positions;
  const b = bounds(p);
  const spans = [0, 1, 2].map((k) => b.max[k] - b.min[k] + 2 * AROUND);
  const cell = Math.max(FINEST, Math.cbrt((spans[0] * spans[1] * spans[2]) / CELLS));
  const size = spans.map((w) => Math.ceil(w / cell) + 1) as [number, number, number];
  const origin = b.min.map((m) => m - AROUND) as [number, number, number];
  const [nx, ny, nz] = size;
  const vertex = new Int32Array(nx * ny * nz).fill(-1);
  const distance = new Float64Array(vertex.length).fill(Infinity);
  const offer = (i: number, j: number, k: number, c: number, v: number): void => {
    const dx = p[3 * v] - (origin[0] + i * cell);
    const dy = p[3 * v + 1] - (origin[1] + j * cell);
    const dz = p[3 * v + 2] - (origin[2] + k * cell);
    const d = dx * dx + dy * dy + dz * dz;
    if (d < distance[c]) {
      distance[c] = d;
      vertex[c] = v;
    }
  };
  for (let v = 0; v < p.length / 3; v++) {
    const i = Math.round((p[3 * v] - origin[0]) / cell);
    const j = Math.round((p[3 * v + 1] - origin[1]) / cell);
    const k = Math.round((p[3 * v + 2] - origin[2]) / cell);
    offer(i, j, k, i + nx * (j + ny * k), v);
  }
  // Two sweeps there and back carry each vertex outward from cell to cell (a vector distance transform, near enough exact).
  for (const step of [1, -1, 1, -1]) {
    const range = (n: number): [number, number] => (step > 0 ? [0, n] : [n - 1, -1]);
    const [k0, k1] = range(nz);
    const [j0, j1] = range(ny);
    const [i0, i1] = range(nx);
    for (let k = k0; k !== k1; k += step)
      for (let j = j0; j !== j1; j += step)
        for (let i = i0; i !== i1; i += step) {
          const c = i + nx * (j + ny * k);
          const x = i - step;
          const y = j - step;
          const z = k - step;
          if (x >= 0 && x < nx && vertex[c - step] >= 0) offer(i, j, k, c, vertex[c - step]);
          if (y >= 0 && y < ny && vertex[c - step * nx] >= 0) offer(i, j, k, c, vertex[c - step * nx]);
          if (z >= 0 && z < nz && vertex[c - step * nx * ny] >= 0) offer(i, j, k, c, vertex[c - step * nx * ny]);
        }
  }
  return { cell, origin, size, vertex, surface: s };
}

/** Vertex of the surface near (x, y, z), or −1 outside of the field. */
export function nearVertex(f: NearestField, x: number, y: number, z: number): number {
  const i = Math.round((x - f.origin[0]) / f.cell);
  const j = Math.round((y - f.origin[1]) / f.cell);
  const k = Math.round((z - f.origin[2]) / f.cell);
  if (i < 0 || j < 0 || k < 0 || i >= f.size[0] || j >= f.size[1] || k >= f.size[2]) return -1;
  return f.vertex[i + f.size[0] * (j + f.size[1] * k)];
}
