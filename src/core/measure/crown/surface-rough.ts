import { solveSymmetric } from '../../linalg/solve.ts';
import { type Reading, reading, refusal } from '../../result/reading.ts';
import type { SurfaceKind } from '../../segment/crown/surfaces.ts';
import { isScrap } from '../../segment/target.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { seeded } from '../../statistics/random.ts';
import type { CrownContext } from './context.ts';

/** mm: half the patch of 1 mm that the definition names; and how many patches stand for a surface. */
const RADIUS_MM = 0.5;
const PATCHES = 240;

/**
 * Roughness: how far the scan's points stand off a smooth patch 1 mm across, on walls and floor. Scan noise is part of it:
 * compare with the fit's own noise.
 * @formula RMS residual about the best quadric z = a + bx + cy + dx² + exy + fy² in the patch's own plane; median and 95 % over 240 patches
 * @units mm
 * @frame tooth
 * @fails nothing-prepared
 * @source own definition, docs/definitions.md
 * @example a smooth cylinder without noise reads 0
 */
export function surfaceRough(c: CrownContext): Reading[] {
  return [...roughOf(c, 'wall'), ...roughOf(c, 'floor')];
}

function roughOf(c: CrownContext, kind: SurfaceKind): Reading[] {
  const name = 'surface.rough';
  const of: number[] = [];
  for (let v = 0; v < c.kinds.length; v++) if (c.kinds[v] === kind) of.push(v);
  const random = seeded(5);
  const values: number[] = [];
  for (let i = 0; i < PATCHES && !isScrap(c.anatomy.region, of); i++) {
    const r = residual(c, of[Math.floor(random.next() * of.length)], kind);
    if (r !== null) values.push(r);
  }
  if (values.length < 20) return refusal(name, kind, ['median', 'p95'], 'nothing-prepared');
  const [median, p95] = weightedQuantiles(
    values,
    values.map(() => 1),
    [0.5, 0.95],
  );
  const common = { name, zone: kind, samples: values.length };
  return [
    reading({ ...common, stat: 'median', value: median, U: 2 * Math.max(0.001, 0.1 * median) }),
    reading({ ...common, stat: 'p95', value: p95, U: 2 * Math.max(0.002, 0.2 * p95) }),
  ];
}

/** RMS about a quadric through the points of the same kind within 0.5 mm, gathered over triangle sides; null near an edge of the kind. */
function residual(c: CrownContext, centre: number, kind: SurfaceKind): number | null {
  const { mesh, adjacency, normals } = c.anatomy.region;
  const p = mesh.positions;
  const near = [centre];
  const seen = new Set(near);
  for (let k = 0; k < near.length; k++)
    for (let i = adjacency.start[near[k]]; i < adjacency.start[near[k] + 1]; i++) {
      const w = adjacency.list[i];
      if (seen.has(w)) continue;
      seen.add(w);
      if (Math.hypot(p[3 * w] - p[3 * centre], p[3 * w + 1] - p[3 * centre + 1], p[3 * w + 2] - p[3 * centre + 2]) > RADIUS_MM) continue;
      // A margin's floor is narrower than the patch: its own points alone are looked at; a wall's patch stays clear of edges.
      if (c.kinds[w] !== kind) {
        if (kind === 'floor') continue;
        return null;
      }
      near.push(w);
    }
  if (near.length < 16) return null;
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
