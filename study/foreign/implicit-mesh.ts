import type { Vec3 } from '#core/linalg/vec.ts';
import type { Sheet } from './scanner.ts';

/** A body as a function of place (mm): negative inside, about the distance near its surface. */
export type Body = (x: number, y: number, z: number) => number;

/** Intersection whose edge is an arc of radius `r` where both bodies are planes square to each other. */
export const roundedBoth = (a: number, b: number, r: number): number =>
  r > 0 ? Math.min(-r, Math.max(a, b)) + Math.hypot(Math.max(r + a, 0), Math.max(r + b, 0)) : Math.max(a, b);

/** Union whose inner corner is an arc of radius `r` where both bodies are planes square to each other. */
export const roundedEither = (a: number, b: number, r: number): number => -roundedBoth(-a, -b, r);

export function gradient(f: Body, p: Vec3): Vec3 {
  const e = 1e-4;
  return [
    (f(p[0] + e, p[1], p[2]) - f(p[0] - e, p[1], p[2])) / (2 * e),
    (f(p[0], p[1] + e, p[2]) - f(p[0], p[1] - e, p[2])) / (2 * e),
    (f(p[0], p[1], p[2] + e) - f(p[0], p[1], p[2] - e)) / (2 * e),
  ];
}

/** The nearest place of the surface, by Newton steps along the gradient; null where they do not arrive. */
function onSurface(f: Body, from: Vec3): Vec3 | null {
  let p = from;
  for (let step = 0; step < 5; step++) {
    const d = f(...p);
    if (Math.abs(d) < 1e-5) return p;
    const g = gradient(f, p);
    const l = g[0] ** 2 + g[1] ** 2 + g[2] ** 2;
    if (l < 1e-6) return null;
    p = [p[0] - (d * g[0]) / l, p[1] - (d * g[1]) / l, p[2] - (d * g[2]) / l];
  }
  return Math.abs(f(...p)) < 0.003 ? p : null;
}

/** Cells along the largest and the smallest cube of the grid that is looked at, and how much faster than with distance a body's value may change. */
const CUBES = [8, 2] as const;
const STEEPEST = 1.6;

/** Values at the places of a grid; in cubes that the surface cannot reach, the side of it that they lie on. */
function valuesNear(n: readonly number[], cell: number, f: (i: number, j: number, k: number) => number): Float32Array {
  const values = new Float32Array(n[0] * n[1] * n[2]).fill(Number.NaN);
  const value = (i: number, j: number, k: number): number => {
    const at = i + n[0] * (j + n[1] * k);
    if (Number.isNaN(values[at])) values[at] = f(i, j, k);
    return values[at];
  };
  const far: { readonly from: readonly number[]; readonly to: readonly number[]; readonly side: number }[] = [];
  const look = (from: readonly number[], size: number): void => {
    const to = from.map((v, axis) => Math.min(v + size, n[axis] - 1));
    // No place of a cube is farther than this from one of its corners.
    const reach = (STEEPEST * size * cell * Math.sqrt(3)) / 2;
    const side = Math.sign(value(from[0], from[1], from[2])) * reach;
    if (CORNERS.every((c) => value(...onCube(c, from, to)) * side > reach * reach)) far.push({ from, to, side });
    else if (size > CUBES[1]) eachPart(from, size / 2);
    else eachOf(from, to, value);
  };
  const eachPart = (from: readonly number[], size: number): void => {
    for (const c of CORNERS) {
      const part = from.map((v, axis) => v + c[axis] * size);
      if (part.every((v, axis) => v < n[axis])) look(part, size);
    }
  };
  for (let k = 0; k < n[2]; k += CUBES[0])
    for (let j = 0; j < n[1]; j += CUBES[0]) for (let i = 0; i < n[0]; i += CUBES[0]) look([i, j, k], CUBES[0]);
  // Last: a place that a near cube shares has its own value.
  for (const { from, to, side } of far)
    eachOf(from, to, (i, j, k) => {
      const at = i + n[0] * (j + n[1] * k);
      if (Number.isNaN(values[at])) values[at] = side;
    });
  return values;
}

/** A corner of the cube between two places of the grid. */
const onCube = (corner: readonly number[], from: readonly number[], to: readonly number[]): [number, number, number] => [
  (corner[0] ? to : from)[0],
  (corner[1] ? to : from)[1],
  (corner[2] ? to : from)[2],
];

function eachOf(from: readonly number[], to: readonly number[], what: (i: number, j: number, k: number) => unknown): void {
  for (let k = from[2]; k <= to[2]; k++) for (let j = from[1]; j <= to[1]; j++) for (let i = from[0]; i <= to[0]; i++) what(i, j, k);
}

/**
 * The surface of a body within a block as one vertex per grid cell that it crosses, put onto the surface, and one quad per crossed grid line (surface nets).
 * Vertices lie on no edge of the body but by chance, as a scanner's points do.
 */
export function surfaceNets(
  sheet: Sheet,
  f: Body,
  block: { from: Vec3; to: Vec3 },
  cell: number,
  partOf: (p: Vec3) => number,
  keep: (p: Vec3) => boolean = () => true,
): void {
  const n = [0, 1, 2].map((k) => Math.ceil((block.to[k] - block.from[k]) / cell) + 1);
  const at = (i: number, j: number, k: number): number => i + n[0] * (j + n[1] * k);
  const values = valuesNear(n, cell, (i, j, k) => f(block.from[0] + i * cell, block.from[1] + j * cell, block.from[2] + k * cell));
  const corners = CORNERS.map((c) => at(...c));
  const vertex = new Int32Array(values.length).fill(-1);
  for (let k = 0; k + 1 < n[2]; k++)
    for (let j = 0; j + 1 < n[1]; j++)
      for (let i = 0; i + 1 < n[0]; i++) {
        if (!isCrossed(values, at(i, j, k), corners)) continue;
        const middle = crossing(values, at, i, j, k);
        if (!middle) continue;
        const p: Vec3 = [
          block.from[0] + (i + middle[0]) * cell,
          block.from[1] + (j + middle[1]) * cell,
          block.from[2] + (k + middle[2]) * cell,
        ];
        const q = onSurface(f, p);
        const own = q && Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]) < cell ? q : p;
        if (!keep(own)) continue;
        vertex[at(i, j, k)] = sheet.positions.length / 3;
        sheet.positions.push(...own);
        sheet.parts.push(partOf(own));
      }
  const quad = (a: number, b: number, c: number, d: number, turned: boolean): void => {
    const v = [a, b, c, d].map((q) => vertex[q]);
    if (v.some((q) => q < 0)) return;
    const [p, q, r, s] = turned ? [v[0], v[3], v[2], v[1]] : v;
    sheet.triangles.push(p, q, r, p, r, s);
  };
  for (let k = 1; k + 1 < n[2]; k++)
    for (let j = 1; j + 1 < n[1]; j++)
      for (let i = 1; i + 1 < n[0]; i++) {
        const inside = values[at(i, j, k)] < 0;
        if (values[at(i + 1, j, k)] < 0 !== inside) quad(at(i, j - 1, k - 1), at(i, j, k - 1), at(i, j, k), at(i, j - 1, k), !inside);
        if (values[at(i, j + 1, k)] < 0 !== inside) quad(at(i - 1, j, k - 1), at(i - 1, j, k), at(i, j, k), at(i, j, k - 1), !inside);
        if (values[at(i, j, k + 1)] < 0 !== inside) quad(at(i - 1, j - 1, k), at(i, j - 1, k), at(i, j, k), at(i - 1, j, k), !inside);
      }
}

const EDGES: readonly (readonly [readonly number[], readonly number[]])[] = [0, 1, 2].flatMap((axis) =>
  [0, 1].flatMap((u) =>
    [0, 1].map((v) => {
      const from = [0, 0, 0];
      from[(axis + 1) % 3] = u;
      from[(axis + 2) % 3] = v;
      const to = [...from];
      to[axis] = 1;
      return [from, to] as const;
    }),
  ),
);

const CORNERS = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => [c & 1, (c >> 1) & 1, c >> 2] as const);

/** Whether a cell has corners on both sides of the surface. */
function isCrossed(values: Float32Array, first: number, corners: readonly number[]): boolean {
  const isInside = values[first] < 0;
  for (const c of corners) if (values[first + c] < 0 !== isInside) return true;
  return false;
}

/** Mean of the places where a cell's sides are crossed, in shares of the cell; null when none is. */
function crossing(values: Float32Array, at: (i: number, j: number, k: number) => number, i: number, j: number, k: number): Vec3 | null {
  let count = 0;
  const s = [0, 0, 0];
  for (const [from, to] of EDGES) {
    const a = values[at(i + from[0], j + from[1], k + from[2])];
    const b = values[at(i + to[0], j + to[1], k + to[2])];
    if (a < 0 === b < 0) continue;
    const t = a / (a - b);
    for (let c = 0; c < 3; c++) s[c] += from[c] + t * (to[c] - from[c]);
    count++;
  }
  return count ? [s[0] / count, s[1] / count, s[2] / count] : null;
}
