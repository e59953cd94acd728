import { applyPoint, type Matrix } from '../linalg/rigid.ts';
import { eigenSymmetric3, solveSymmetric } from '../linalg/solve.ts';
import type { Vec3 } from '../linalg/vec.ts';
import type { Master } from '../master/master.ts';
import { bounds } from '../mesh/mesh.ts';
import { madSigma } from '../statistics/quantile.ts';
import { THRESHOLDS } from '../thresholds.ts';
import type { Sample } from './sample.ts';
import { pointToPlaneStep, type Step } from './step.ts';

export interface FineFit {
  /** Sampled frame → tooth frame. */
  readonly pose: Matrix;
  /** mm: root mean square of the stable set's residuals. */
  readonly rms: number;
  /** mm²: surface of the scan that agrees with the master. */
  readonly stableArea: number;
  /** Share of the twelve 30° directions around the target in which stable surface lies. */
  readonly spread: number;
  /** mm: standard error of a point at the target's centre, along its worst direction. */
  readonly pointError: number;
  /** radians: standard error of the worst turn. */
  readonly turnError: number;
  /** mm: robust standard deviation of a single scan point about the master (noise of both). */
  readonly noise: number;
}

/** mm: distance over which neighbouring scan points share their noise; sets how many of them count as independent. */
const NOISE_PATCH_MM = 0.5;

/**
 * Robust point-to-plane ICP with Tukey's biweight. Its scale follows the residuals' own spread down to the noise, so that points that were cut, damaged or drifted get no weight; ends when a step moves less than 0.05 µm and 3 µrad.
 */
export function fineAlign(scan: Sample, master: Master, start: Matrix): FineFit {
  let pose = start;
  const hints = new Int32Array(scan.count).fill(-1);
  let cut = 0.6;
  let last: Step | null = null;
  // A part of the points brings the scale down; all of them decide the last steps.
  let all = false;
  for (let i = 0; i < 60; i++) {
    const c = cut;
    const step = pointToPlaneStep(scan, master.whole, pose, {
      points: all ? scan.count : 1500,
      limit: Math.max(0.25, 1.5 * c),
      weight: (r) => (Math.abs(r) < c ? (1 - (r / c) ** 2) ** 2 : 0),
      normalWithin: 0.7,
      // As the coarse search names it: the engine throws a compiled step away that meets another sort of options.
      field: undefined,
      hints,
    });
    if (!step) break;
    pose = step.matrix;
    last = step;
    const inside = Array.from(step.residuals).filter((_, k) => step.weights[k] > 0);
    if (inside.length < 12) break;
    const sigma = Math.max(madSigma(inside), 0.001);
    const next = Math.max(Math.min(0.75 * cut, 4 * sigma), 3.5 * sigma, 0.008);
    const settled = next > 0.96 * cut;
    cut = Math.min(cut, next);
    if (!settled || i < 3) continue;
    if (all && step.turn < 3e-6 && step.shift < 5e-5) break;
    all = true;
  }
  return describe(scan, master, pose, last);
}

function describe(scan: Sample, master: Master, pose: Matrix, step: Step | null): FineFit {
  const nothing: FineFit = { pose, rms: Infinity, stableArea: 0, spread: 0, pointError: Infinity, turnError: Infinity, noise: Infinity };
  if (!step) return nothing;
  const stable: number[] = [];
  const sectors = new Set<number>();
  for (let i = 0; i < step.residuals.length; i++) {
    if (!(step.weights[i] > 0)) continue;
    stable.push(step.residuals[i]);
    const p = applyPoint(pose, [scan.points[3 * i], scan.points[3 * i + 1], scan.points[3 * i + 2]]);
    if (Math.hypot(p[0], p[1]) < 20) sectors.add(Math.floor((Math.atan2(p[0], p[1]) / Math.PI + 1) * 6) % 12);
  }
  if (stable.length < 50) return nothing;
  const rms = Math.sqrt(stable.reduce((s, r) => s + r * r, 0) / stable.length);
  const stableArea = stable.length * scan.areaEach;
  const independent = Math.max(12, Math.min(stable.length, stableArea / NOISE_PATCH_MM ** 2));
  // Floor of the noise estimate: no scanner is better than this, and without it two meshes that share their facets would count as exact.
  const own = Math.max(rms, THRESHOLDS.scannerNoiseLeast_mm);
  const factor = (own * own * stable.length) / independent;
  const errors = poseErrors(step, factor, targetCentre(master));
  return { pose, rms, stableArea, spread: sectors.size / 12, noise: rms, ...errors };
}

function targetCentre(master: Master): Vec3 {
  const b = bounds(master.target.mesh.positions);
  return [(b.min[0] + b.max[0]) / 2, (b.min[1] + b.max[1]) / 2, (b.min[2] + b.max[2]) / 2];
}

/** Covariance of the pose = factor × information⁻¹, carried to the point `at`: cov(t + ω × (at − c)). */
function poseErrors(step: Step, factor: number, at: Vec3): { pointError: number; turnError: number } {
  const columns: number[][] = [];
  for (let k = 0; k < 6; k++) {
    const e = new Array(6).fill(0);
    e[k] = 1;
    const s = solveSymmetric(step.information, e, 6);
    if (!s) return { pointError: Infinity, turnError: Infinity };
    columns.push(s);
  }
  const x = at[0] - step.centre[0];
  const y = at[1] - step.centre[1];
  const z = at[2] - step.centre[2];
  const g = [
    [0, z, -y, 1, 0, 0],
    [-z, 0, x, 0, 1, 0],
    [y, -x, 0, 0, 0, 1],
  ];
  const cov: number[] = [];
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) {
      let s = 0;
      for (let i = 0; i < 6; i++) for (let j = 0; j < 6; j++) s += g[r][i] * columns[j][i] * g[c][j];
      cov.push(s * factor);
    }
  const turns = [0, 1, 2].flatMap((r) => [0, 1, 2].map((c) => columns[c][r] * factor));
  return {
    pointError: Math.sqrt(Math.max(0, eigenSymmetric3(cov).values[2])),
    turnError: Math.sqrt(Math.max(0, eigenSymmetric3(turns).values[2])),
  };
}
