import { eigenSymmetric3 } from '../../linalg/solve.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { median, quantile } from '../../statistics/quantile.ts';
import { isScrap, type TargetRegion } from '../target.ts';

/** A blind hole drilled into the prepared surface, closed all round. */
export interface Pinhole {
  readonly x: number;
  readonly y: number;
  /** Heights of rim and bottom, mm. */
  readonly rim: number;
  readonly bottom: number;
  readonly diameter: number;
  /** Unit vector out of the hole; null when its wall was hardly seen. */
  readonly axis: Vec3 | null;
}

/** mm: cells of the height map; radius of the disc that bridges a hole; depth from which a bridged place counts. */
const CELL = 0.1;
const BRIDGE = 0.5;
const LEAST_DEPTH = 0.5;
/** mm: no pinhole is drilled deeper. */
const MOST_DEPTH = 4.5;
const AREA = [0.08, 0.95] as const;

/** Holes that a disc laid on the prepared surface bridges and whose rim stands all round. */
export function pinholesOf(region: TargetRegion): Pinhole[] {
  const map = heightMap(region);
  if (!map) return [];
  const over = map.most(map.z, BRIDGE);
  // What the disc bridges lies no higher than the highest place near it.
  const mayBeDeep = (i: number): boolean => over[i] - map.z[i] > LEAST_DEPTH;
  const bridged = map.least(over, BRIDGE, mayBeDeep);
  const deep = map.z.map((z, i) => (bridged[i] - z > LEAST_DEPTH ? 1 : 0));
  const p = region.mesh.positions;
  return map.patches(deep).flatMap((cells): Pinhole[] => {
    const area = cells.length * CELL * CELL;
    if (area < AREA[0] || area > AREA[1]) return [];
    const x = cells.reduce((s, i) => s + map.x(i), 0) / cells.length;
    const y = cells.reduce((s, i) => s + map.y(i), 0) / cells.length;
    const bottom = quantile(
      cells.map((i) => map.z[i]),
      0.1,
    );
    const wall = wallOf(region, x, y, Math.sqrt(area / Math.PI), bottom);
    // A shaft's wall tells its radius; cells, half of them on the rim, only about.
    const radius = wall ? median(wall.map((v) => Math.hypot(p[3 * v] - x, p[3 * v + 1] - y))) : Math.sqrt(area / Math.PI);
    const rim: number[] = [];
    for (let k = 0; k < 16; k++) {
      const z = map.at(x + (radius + 0.2) * Math.sin((k * Math.PI) / 8), y + (radius + 0.2) * Math.cos((k * Math.PI) / 8));
      if (z !== null && z - bottom > LEAST_DEPTH) rim.push(z);
    }
    if (rim.length < 15) return [];
    // On a slope the middle of the rim's heights is that over the hole; a wall close by does not lift it.
    const level = quantile(rim, 0.5);
    // Deeper it is no hole in the tooth: it came out at the side, and what lies under it is the gum.
    if (level - bottom > MOST_DEPTH) return [];
    return [{ x, y, rim: level, bottom, diameter: 2 * radius, axis: wall && axisOf(region, wall) }];
  });
}

function heightMap(r: TargetRegion) {
  const p = r.mesh.positions;
  const t = r.mesh.triangles;
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let v = 0; v < r.areas.length; v++) {
    if (!r.prepared[v]) continue;
    x0 = Math.min(x0, p[3 * v]);
    x1 = Math.max(x1, p[3 * v]);
    y0 = Math.min(y0, p[3 * v + 1]);
    y1 = Math.max(y1, p[3 * v + 1]);
  }
  if (!(x1 > x0)) return null;
  const nx = Math.ceil((x1 - x0) / CELL) + 1;
  const ny = Math.ceil((y1 - y0) / CELL) + 1;
  const z = new Float64Array(nx * ny).fill(Number.NaN);
  const put = (x: number, y: number, h: number): void => {
    const i = Math.round((y - y0) / CELL) * nx + Math.round((x - x0) / CELL);
    if (!(z[i] <= h)) z[i] = h;
  };
  for (let f = 0; f < t.length; f += 3) {
    const [a, b, c] = [t[f], t[f + 1], t[f + 2]];
    if (!r.prepared[a] || !r.prepared[b] || !r.prepared[c]) continue;
    const [ax, ay, az] = [p[3 * a], p[3 * a + 1], p[3 * a + 2]];
    const [bx, by, bz] = [p[3 * b] - ax, p[3 * b + 1] - ay, p[3 * b + 2] - az];
    const [cx, cy, cz] = [p[3 * c] - ax, p[3 * c + 1] - ay, p[3 * c + 2] - az];
    const longest = Math.sqrt(Math.max(bx * bx + by * by, cx * cx + cy * cy, (bx - cx) ** 2 + (by - cy) ** 2));
    const n = Math.max(1, Math.min(12, Math.ceil(longest / (0.6 * CELL))));
    for (let i = 0; i <= n; i++)
      for (let j = 0; j <= n - i; j++) put(ax + (bx * i + cx * j) / n, ay + (by * i + cy * j) / n, az + (bz * i + cz * j) / n);
  }
  /** Steps from a cell to those in the disc round it, across and up in turn. */
  const disc = (radius: number): Int32Array => {
    const n = Math.floor(radius / CELL);
    const out: number[] = [];
    for (let i = -n; i <= n; i++) for (let j = -n; j <= n; j++) if (i * i + j * j <= n * n) out.push(i, j);
    return Int32Array.from(out);
  };
  /** The largest (sign 1) or least (−1) height in a disc round each cell that is wanted; not a number at the others. */
  const filter = (of: Float64Array, radius: number, sign: 1 | -1, wanted: (cell: number) => boolean): Float64Array => {
    const steps = disc(radius);
    const out = new Float64Array(of.length).fill(Number.NaN);
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) {
        if (Number.isNaN(z[j * nx + i]) || !wanted(j * nx + i)) continue;
        let best = -Infinity;
        for (let k = 0; k < steps.length; k += 2) {
          const x = i + steps[k];
          const y = j + steps[k + 1];
          if (x < 0 || y < 0 || x >= nx || y >= ny) continue;
          const v = sign * of[y * nx + x];
          // Written so that an empty cell (not a number) is passed over.
          if (v > best) best = v;
        }
        out[j * nx + i] = sign * best;
      }
    return out;
  };
  return {
    z,
    x: (i: number): number => x0 + (i % nx) * CELL,
    y: (i: number): number => y0 + Math.floor(i / nx) * CELL,
    at: (x: number, y: number): number | null => {
      const [i, j] = [Math.round((x - x0) / CELL), Math.round((y - y0) / CELL)];
      if (i < 0 || j < 0 || i >= nx || j >= ny) return null;
      const v = z[j * nx + i];
      return Number.isNaN(v) ? null : v;
    },
    most: (of: Float64Array, radius: number) => filter(of, radius, 1, () => true),
    least: (of: Float64Array, radius: number, wanted: (cell: number) => boolean) => filter(of, radius, -1, wanted),
    /** Connected cells that are set. */
    patches: (flag: ArrayLike<number>): number[][] => {
      const seen = new Uint8Array(flag.length);
      const out: number[][] = [];
      for (let s = 0; s < flag.length; s++) {
        if (seen[s] || !flag[s]) continue;
        const cells = [s];
        seen[s] = 1;
        for (let k = 0; k < cells.length; k++)
          for (const d of [1, -1, nx, -nx]) {
            const q = cells[k] + d;
            if (q < 0 || q >= flag.length || seen[q] || !flag[q]) continue;
            seen[q] = 1;
            cells.push(q);
          }
        out.push(cells);
      }
      return out;
    },
  };
}

/** Points of a hole's wall, away from its bottom and its rim; null when it was hardly seen. */
function wallOf(r: TargetRegion, x: number, y: number, radius: number, bottom: number): number[] | null {
  const p = r.mesh.positions;
  const inside: number[] = [];
  for (let v = 0; v < r.areas.length; v++)
    if (r.prepared[v] && Math.hypot(p[3 * v] - x, p[3 * v + 1] - y) < radius + 0.2 && p[3 * v + 2] > bottom + 0.2) inside.push(v);
  const steep = inside.filter((v) => Math.abs(r.normals[3 * v + 2]) < 0.5);
  // Its highest points belong to the rim.
  const top = quantile(
    steep.map((v) => p[3 * v + 2]),
    0.9,
  );
  const wall = steep.filter((v) => p[3 * v + 2] < top - 0.25);
  return isScrap(r, wall) ? null : wall;
}

/** The direction that is perpendicular to the normals of the hole's wall. */
function axisOf(r: TargetRegion, wall: readonly number[]): Vec3 {
  const m = new Array<number>(9).fill(0);
  for (const v of wall)
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m[3 * i + j] += r.areas[v] * r.normals[3 * v + i] * r.normals[3 * v + j];
  const axis = eigenSymmetric3(m).vectors[0];
  return axis[2] < 0 ? [-axis[0], -axis[1], -axis[2]] : axis;
}
