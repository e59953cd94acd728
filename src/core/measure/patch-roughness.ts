import { solveSymmetric } from '../linalg/solve.ts';
import { type Reading, reading, refusal } from '../result/reading.ts';
import { isScrap, type TargetRegion } from '../segment/target.ts';
import { weightedQuantiles } from '../statistics/quantile.ts';
import { seeded } from '../statistics/random.ts';

/** mm: half the patch of 1 mm that the definitions name; and how many patches stand for a surface. */
const RADIUS_MM = 0.5;
const PATCHES = 240;
/** Patches without which a surface has no roughness of its own, and points without which a patch has no shape. */
const LEAST_PATCHES = 20;
const LEAST_POINTS = 16;

/** What a patch does at the edge of its surface: it keeps to its own points, or is not looked at. */
export type AtEdge = 'own points' | 'left out';

/**
 * Roughness of surfaces given by their points, no patch of which runs from one into another: median and 95 % over 240 patches of 1 mm of the RMS about each patch's own quadric.
 * @units mm
 */
export function patchRoughness(
  region: TargetRegion,
  surfaces: readonly (readonly number[])[],
  { name, zone, atEdge }: { readonly name: string; readonly zone: string | null; readonly atEdge: AtEdge },
): Reading[] {
  const of = surfaces.flat();
  const own = new Map(surfaces.flatMap((points, i) => points.map((v) => [v, i] as const)));
  const random = seeded(5);
  const values: number[] = [];
  for (let i = 0; i < PATCHES && !isScrap(region, of); i++) {
    const r = residual(region, of[Math.floor(random.next() * of.length)], own, atEdge);
    if (r !== null) values.push(r);
  }
  if (values.length < LEAST_PATCHES) return refusal(name, zone, ['median', 'p95'], 'nothing-prepared');
  const [median, p95] = weightedQuantiles(
    values,
    values.map(() => 1),
    [0.5, 0.95],
  );
  const common = { name, zone, samples: values.length };
  return [
    reading({ ...common, stat: 'median', value: median, U: 2 * Math.max(0.001, 0.1 * median) }),
    reading({ ...common, stat: 'p95', value: p95, U: 2 * Math.max(0.002, 0.2 * p95) }),
  ];
}

/** RMS about a quadric through the surface's points within 0.5 mm, gathered over triangle sides; null near its edge where edges are left out. */
function residual(region: TargetRegion, centre: number, own: ReadonlyMap<number, number>, atEdge: AtEdge): number | null {
  const { mesh, adjacency, normals } = region;
  const p = mesh.positions;
  const near = [centre];
  const seen = new Set(near);
  for (let k = 0; k < near.length; k++)
    for (let i = adjacency.start[near[k]]; i < adjacency.start[near[k] + 1]; i++) {
      const w = adjacency.list[i];
      if (seen.has(w)) continue;
      seen.add(w);
      if (Math.hypot(p[3 * w] - p[3 * centre], p[3 * w + 1] - p[3 * centre + 1], p[3 * w + 2] - p[3 * centre + 2]) > RADIUS_MM) continue;
      if (own.get(w) !== own.get(centre)) {
        if (atEdge === 'own points') continue;
        return null;
      }
      near.push(w);
    }
  if (near.length < LEAST_POINTS) return null;
  const n = [normals[3 * centre], normals[3 * centre + 1], normals[3 * centre + 2]];
  const u = Math.abs(n[2]) < 0.9 ? unitOf([-n[1], n[0], 0]) : unitOf([1, 0, -n[0] / n[2]]);
  const w = [n[1] * u[2] - n[2] * u[1], n[2] * u[0] - n[0] * u[2], n[0] * u[1] - n[1] * u[0]];
  const rows = near.map((v) => {
    const d = [p[3 * v] - p[3 * centre], p[3 * v + 1] - p[3 * centre + 1], p[3 * v + 2] - p[3 * centre + 2]];
    const x = d[0] * u[0] + d[1] * u[1] + d[2] * u[2];
    const y = d[0] * w[0] + d[1] * w[1] + d[2] * w[2];
    return { f: [1, x, y, x * x, x * y, y * y], h: d[0] * n[0] + d[1] * n[1] + d[2] * n[2] };
  });
  const a = new Float64Array(36);
  const b = new Float64Array(6);
  for (const { f, h } of rows)
    for (let i = 0; i < 6; i++) {
      b[i] += f[i] * h;
      for (let j = 0; j < 6; j++) a[6 * i + j] += f[i] * f[j];
    }
  const s = solveSymmetric(a, b, 6);
  if (!s) return null;
  const sum = rows.reduce((t, { f, h }) => t + (h - f.reduce((q, v, i) => q + v * s[i], 0)) ** 2, 0);
  return Math.sqrt(sum / (rows.length - 6));
}

function unitOf(v: readonly number[]): number[] {
  const l = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / l, v[1] / l, v[2] / l];
}
