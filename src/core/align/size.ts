import { applyPoint, type Matrix } from '../linalg/rigid.ts';
import { addObservation, solveSymmetric } from '../linalg/solve.ts';
import type { Master } from '../master/master.ts';
import { closestPoint, newClosest, onBorder, pseudoNormal } from '../spatial/surface.ts';
import { madSigma } from '../statistics/quantile.ts';
import { THRESHOLDS } from '../thresholds.ts';
import type { Sample } from './sample.ts';

/** Size of the scan against its master, from the surface that was not cut. */
export interface ScanSize {
  /** 1.01: the scan is 1 % too large. */
  readonly factor: number;
  /** Standard error of the factor. */
  readonly u: number;
}

/** Relative size difference from the master above which a person is warned: scanner out of calibration, or a shrunk model. */
const TOLD_FROM = 0.003;
/** mm from a tooth's middle to its surfaces: what a wrong size moves them by is this times its share. */
const REACH = 5;

/** Whether the size is surely off by more than usual. */
export const isSizeOff = (s: ScanSize): boolean => Math.abs(s.factor - 1) > Math.max(TOLD_FROM, 2 * s.u);

/** mm: standard uncertainty that an uncorrected size adds to places on the tooth; 0 where it is as it should be. */
export const sizeError = (s: ScanSize | null): number => (s && isSizeOff(s) ? Math.abs(s.factor - 1) * REACH : 0);

/** Points that are used, and rounds in which the weights follow the residuals. */
const POINTS = 3000;
const ROUNDS = 12;
/** mm: residual beyond which a point counts for nothing, first and last; a scan 2 % off differs by 0.25 mm at its ends. */
const FIRST = 0.5;
const LAST = 0.06;
/** Change of the factor in one round below which no further one is taken: a thirtieth of what is told. */
const SETTLED = 1e-4;
/** mm over which two scans of one surface share their errors (stitching, the master's own): wider than a point's noise. */
const SHARED = 2;

/**
 * Size of the scan: similarity instead of rigid motion between the uncut surface and the master, by point-to-plane least squares with
 * Tukey's weights, from the rigid pose on. Its standard error counts 2 mm of surface as one observation. Null when too little holds it.
 * @source own definition, docs/definitions.md
 */
export function sizeOf(scan: Sample, master: Master, pose: Matrix, noise: number): ScanSize | null {
  const count = Math.min(POINTS, scan.count);
  const hints = new Int32Array(count).fill(-1);
  const hit = newClosest();
  const n: [number, number, number] = [0, 0, 0];
  const p = new Float64Array(3 * count);
  const centre = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    const q = applyPoint(pose, [scan.points[3 * i], scan.points[3 * i + 1], scan.points[3 * i + 2]]);
    for (let k = 0; k < 3; k++) {
      p[3 * i + k] = q[k];
      centre[k] += q[k] / count;
    }
  }
  let factor = 1;
  let variance = Number.POSITIVE_INFINITY;
  let cut = FIRST;
  for (let round = 0; round < ROUNDS; round++) {
    const a = new Float64Array(49);
    const b = new Float64Array(7);
    const j = new Float64Array(7);
    const residuals: number[] = [];
    let weight = 0;
    for (let i = 0; i < count; i++) {
      const x = p[3 * i];
      const y = p[3 * i + 1];
      const z = p[3 * i + 2];
      if (!closestPoint(master.whole, x, y, z, hit, 1.2 * cut, hints[i])) continue;
      hints[i] = hit.slot;
      if (onBorder(master.whole, hit)) continue;
      pseudoNormal(master.whole, hit, n);
      const l = Math.hypot(n[0], n[1], n[2]);
      if (!(l > 0)) continue;
      const r = ((x - hit.x) * n[0] + (y - hit.y) * n[1] + (z - hit.z) * n[2]) / l;
      if (Math.abs(r) >= cut) continue;
      residuals.push(r);
      const w = (1 - (r / cut) ** 2) ** 2;
      weight += w;
      const dx = x - centre[0];
      const dy = y - centre[1];
      const dz = z - centre[2];
      const nx = n[0] / l;
      const ny = n[1] / l;
      const nz = n[2] / l;
      j[0] = dy * nz - dz * ny;
      j[1] = dz * nx - dx * nz;
      j[2] = dx * ny - dy * nx;
      j[3] = nx;
      j[4] = ny;
      j[5] = nz;
      j[6] = dx * nx + dy * ny + dz * nz;
      addObservation(a, b, j, w, -r);
    }
    if (residuals.length < 100) return null;
    const step = solveSymmetric(a, b, 7);
    const unitColumn = solveSymmetric(a, [0, 0, 0, 0, 0, 0, 1], 7);
    if (!step || !unitColumn) return null;
    move(p, centre, step);
    factor *= 1 + step[6];
    const sigma = Math.max(madSigma(residuals), noise, THRESHOLDS.scannerNoiseLeast_mm);
    const independent = Math.max(12, Math.min(weight, (weight * scan.areaEach * scan.count) / count / SHARED ** 2));
    variance = (unitColumn[6] * sigma * sigma * weight) / independent;
    const next = Math.max(LAST, 3.5 * sigma, Math.min(0.75 * cut, 5 * sigma));
    const settled = Math.abs(step[6]) < SETTLED && Math.abs(next - cut) < 0.02 * cut;
    cut = next;
    if (settled) break;
  }
  // The points were made to fit the master: they had to shrink by the factor by which the scan is too large.
  return { factor: 1 / factor, u: Math.sqrt(variance) };
}

/** Moves the points by a small turn, shift and stretch about their centre. */
function move(p: Float64Array, c: readonly number[], s: Float64Array | readonly number[]): void {
  for (let i = 0; i < p.length; i += 3) {
    const x = p[i] - c[0];
    const y = p[i + 1] - c[1];
    const z = p[i + 2] - c[2];
    const k = 1 + s[6];
    p[i] = c[0] + k * x + (s[1] * z - s[2] * y) + s[3];
    p[i + 1] = c[1] + k * y + (s[2] * x - s[0] * z) + s[4];
    p[i + 2] = c[2] + k * z + (s[0] * y - s[1] * x) + s[5];
  }
}
