import { eigenSymmetric3 } from '../linalg/solve.ts';
import { cross, dot, scale, unit, type Vec3 } from '../linalg/vec.ts';
import type { Mesh } from '../mesh/mesh.ts';

export interface Upward {
  readonly direction: Vec3;
  /** 0 to 1: how much more of the surface looks this way than the other. Near 0 nothing decides. */
  readonly sure: number;
}

/**
 * Which way the teeth point. The area vectors of an open scan add up to the area vector of what closes it, so their sum looks away from the
 * opening at its base. A model closed by a flat base has no such sum; there the base itself looks the other way.
 * @formula Σ A n ÷ Σ A over all triangles; under 0.05 the opposite of the direction of the largest flat side
 * @source own definition, docs/definitions.md
 */
export function upward(mesh: Mesh): Upward {
  const { positions: p, triangles: t } = mesh;
  const sum = [0, 0, 0];
  let area = 0;
  const sides: { n: Vec3; area: number }[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const at = (k: number): Vec3 => [p[3 * t[f + k]], p[3 * t[f + k] + 1], p[3 * t[f + k] + 2]];
    const [a, b, c] = [at(0), at(1), at(2)];
    const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
    const l = Math.hypot(...n);
    if (!(l > 0)) continue;
    area += l;
    for (let k = 0; k < 3; k++) sum[k] += n[k];
    sides.push({ n, area: l });
  }
  const sure = Math.hypot(...sum) / (area || 1);
  if (sure > OPEN) return { direction: unit([sum[0], sum[1], sum[2]]), sure: Math.min(1, sure / 0.3) };
  const base = flattest(sides);
  if (base && base.area > BASE * area) return { direction: scale(base.direction, -1), sure: Math.min(1, base.area / area / 0.2) };
  return { direction: thinnest(mesh), sure: 0 };
}

/** Least sum of area vectors, as a share of the area, of a scan that is open at its base; least share of a flat base. */
const OPEN = 0.05;
const BASE = 0.08;

/** Steps of about 6° in which directions are counted, and the cosine of the 12° within which the noise of a base scatters. */
const STEPS = 10;
const SCATTER = 0.978;

/** The direction that most of the surface shares, with the area that does. */
function flattest(sides: readonly { n: Vec3; area: number }[]): { direction: Vec3; area: number } | null {
  const bins = new Map<string, { n: [number, number, number]; area: number }>();
  for (const { n, area } of sides) {
    const key = n.map((v) => Math.round((v / area) * STEPS)).join();
    const bin = bins.get(key) ?? { n: [0, 0, 0], area: 0 };
    for (let k = 0; k < 3; k++) bin.n[k] += n[k];
    bin.area += area;
    bins.set(key, bin);
  }
  const best = [...bins.values()].sort((x, y) => y.area - x.area)[0];
  if (!best) return null;
  const about = unit(best.n);
  const sum = [0, 0, 0];
  let area = 0;
  for (const s of sides) {
    if (dot(s.n, about) < SCATTER * s.area) continue;
    for (let k = 0; k < 3; k++) sum[k] += s.n[k];
    area += s.area;
  }
  return { direction: unit([sum[0], sum[1], sum[2]]), area };
}

/** The direction in which the points lie nearest together: at least the right line, if not the right way along it. */
function thinnest({ positions: p }: Mesh): Vec3 {
  const n = p.length / 3;
  const m = [0, 0, 0];
  for (let i = 0; i < p.length; i++) m[i % 3] += p[i] / n;
  const c = new Array(9).fill(0);
  for (let i = 0; i < p.length; i += 3)
    for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) c[3 * a + b] += ((p[i + a] - m[a]) * (p[i + b] - m[b])) / n;
  const { values, vectors } = eigenSymmetric3(c);
  const least = values.indexOf(Math.min(...values));
  const d = vectors[least];
  return dot(d, d) > 0 ? unit(d) : [0, 0, 1];
}
