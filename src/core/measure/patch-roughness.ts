import { addObservation, solveSymmetric } from '../linalg/solve.ts';
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
  const own = new Int32Array(region.areas.length).fill(-1);
  surfaces.forEach((points, i) => {
    for (const v of points) own[v] = i;
  });
  const seenFrom = new Int32Array(own.length).fill(-1);
  const random = seeded(5);
  const values: number[] = [];
  for (let i = 0; i < PATCHES && !isScrap(region, of); i++) {
    const near = pointsRound(region, of[Math.floor(random.next() * of.length)], { own, seenFrom, patch: i, atEdge });
    const r = near && residual(region, near);
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

/** The surface's points within 0.5 mm of one of them, gathered over triangle sides, itself first; null near its edge where edges are left out. */
function pointsRound(
  { mesh, adjacency }: TargetRegion,
  centre: number,
  of: { readonly own: Int32Array; readonly seenFrom: Int32Array; readonly patch: number; readonly atEdge: AtEdge },
): number[] | null {
  const { own, seenFrom, patch, atEdge } = of;
  const p = mesh.positions;
  const near = [centre];
  seenFrom[centre] = patch;
  for (let k = 0; k < near.length; k++)
    for (let i = adjacency.start[near[k]]; i < adjacency.start[near[k] + 1]; i++) {
      const w = adjacency.list[i];
      if (seenFrom[w] === patch) continue;
      seenFrom[w] = patch;
      const dx = p[3 * w] - p[3 * centre];
      const dy = p[3 * w + 1] - p[3 * centre + 1];
      const dz = p[3 * w + 2] - p[3 * centre + 2];
      if (dx * dx + dy * dy + dz * dz > RADIUS_MM * RADIUS_MM) continue;
      if (own[w] === own[centre]) near.push(w);
      else if (atEdge === 'left out') return null;
    }
  return near;
}

/** RMS about a quadric through points, in the plane of the first one's normal; null for too few of them. */
function residual({ mesh, normals }: TargetRegion, near: readonly number[]): number | null {
  if (near.length < LEAST_POINTS) return null;
  const p = mesh.positions;
  const [centre] = near;
  const n = [normals[3 * centre], normals[3 * centre + 1], normals[3 * centre + 2]];
  const u = Math.abs(n[2]) < 0.9 ? unitOf([-n[1], n[0], 0]) : unitOf([1, 0, -n[0] / n[2]]);
  const w = [n[1] * u[2] - n[2] * u[1], n[2] * u[0] - n[0] * u[2], n[0] * u[1] - n[1] * u[0]];
  const height = new Float64Array(near.length);
  const f = new Float64Array(6);
  const terms = new Float64Array(6 * near.length);
  const a = new Float64Array(36);
  const b = new Float64Array(6);
  near.forEach((v, k) => {
    const dx = p[3 * v] - p[3 * centre];
    const dy = p[3 * v + 1] - p[3 * centre + 1];
    const dz = p[3 * v + 2] - p[3 * centre + 2];
    const x = dx * u[0] + dy * u[1] + dz * u[2];
    const y = dx * w[0] + dy * w[1] + dz * w[2];
    f[0] = 1;
    f[1] = x;
    f[2] = y;
    f[3] = x * x;
    f[4] = x * y;
    f[5] = y * y;
    terms.set(f, 6 * k);
    height[k] = dx * n[0] + dy * n[1] + dz * n[2];
    addObservation(a, b, f, 1, height[k]);
  });
  const s = solveSymmetric(a, b, 6);
  if (!s) return null;
  let sum = 0;
  for (let k = 0; k < near.length; k++) {
    let q = 0;
    for (let i = 0; i < 6; i++) q += terms[6 * k + i] * s[i];
    sum += (height[k] - q) ** 2;
  }
  return Math.sqrt(sum / (near.length - 6));
}

function unitOf(v: readonly number[]): number[] {
  const l = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / l, v[1] / l, v[2] / l];
}
