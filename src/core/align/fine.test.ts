import { describe, expect, it } from 'vitest';
import { astray, hills, motion, moved } from '../../../test/helpers/hills.ts';
import { applyPoint, invertRigid, multiply } from '../linalg/rigid.ts';
import { distance, type Vec3 } from '../linalg/vec.ts';
import type { Master } from '../master/master.ts';
import { nearestField, nearVertex } from '../spatial/nearest-field.ts';
import { makeSurface } from '../spatial/surface.ts';
import { seeded } from '../statistics/random.ts';
import { fineAlign } from './fine.ts';
import { type Sample, sampleSurface } from './sample.ts';
import { isSizeOff, sizeError, sizeOf } from './size.ts';

const sheet = hills(110);
const surface = makeSurface(sheet);
/** Of a master only its surfaces are looked at. */
const master = { whole: surface, target: surface } as Master;
const exact = sampleSurface(sheet, 4000);

/** The sample with noise along its normals, and a hole of that depth within a radius of its middle. */
function scanned(noise: number, cut: { depth: number; radius: number } = { depth: 0, radius: 0 }, seed = 3): Sample {
  const random = seeded(seed);
  const points = exact.points.slice();
  for (let i = 0; i < exact.count; i++) {
    const inHole = Math.hypot(points[3 * i], points[3 * i + 1]) < cut.radius;
    const d = noise * random.normal() - (inHole ? cut.depth : 0);
    for (let k = 0; k < 3; k++) points[3 * i + k] += d * exact.normals[3 * i + k];
  }
  return { ...exact, points };
}
const start = motion(0.02, [0.15, -0.1, 0.12]);

describe('the fine fit', () => {
  it('lays a scan without noise where it belongs, to less than a micrometre', () => {
    const fit = fineAlign(moved(scanned(0), start), master, invertRigid(motion(0.005, [0.02, 0, 0.03])));
    expect(astray(multiply(fit.pose, start))).toBeLessThan(0.001);
    expect(fit.rms).toBeLessThan(0.001);
  });
  it.each([0.01, 0.02, 0.04])('of noise of %f mm tells that noise, and a pose as sure as it says', (noise) => {
    const errors: number[] = [];
    const said: number[] = [];
    for (let seed = 1; seed <= 6; seed++) {
      const fit = fineAlign(moved(scanned(noise, undefined, seed), start), master, invertRigid(start));
      expect(Math.abs(fit.noise - noise) / noise).toBeLessThan(0.12);
      errors.push(distance(applyPoint(multiply(fit.pose, start), [0, 0, 0]), [0, 0, 0]));
      said.push(fit.pointError);
    }
    // A point's error has three directions; the standard error is the worst of them. Noise here is independent, so what is said is cautious.
    for (const [i, e] of errors.entries()) expect(e).toBeLessThan(3 * said[i]);
  });
  it('takes no notice of what was cut, however much and however deep', () => {
    for (const cut of [
      { depth: 0.3, radius: 4 },
      { depth: 1.5, radius: 5 },
    ]) {
      const fit = fineAlign(moved(scanned(0.02, cut), start), master, invertRigid(start));
      expect(astray(multiply(fit.pose, start))).toBeLessThan(0.006);
      // What agrees is what is left of the sheet.
      const hole = Math.PI * cut.radius ** 2;
      const left = exact.areaEach * exact.count - hole;
      expect(fit.stableArea / left).toBeGreaterThan(0.85);
      expect(fit.stableArea / left).toBeLessThan(1.02);
    }
  });
  it('is less sure with less surface, more noise, and surface on one side alone', () => {
    const usual = fineAlign(scanned(0.02), master, motion(0, [0, 0, 0]));
    const noisy = fineAlign(scanned(0.04), master, motion(0, [0, 0, 0]));
    expect(noisy.pointError / usual.pointError).toBeGreaterThan(1.7);
    expect(noisy.pointError / usual.pointError).toBeLessThan(2.3);
    // A strip at the edge, 3 mm wide.
    const kept = Array.from({ length: exact.count }, (_, i) => i).filter((i) => exact.points[3 * i] > 5);
    const whole = scanned(0.02);
    const pick = (a: Float64Array): Float64Array => Float64Array.from(kept.flatMap((i) => [...a.subarray(3 * i, 3 * i + 3)]));
    const strip: Sample = { ...whole, count: kept.length, points: pick(whole.points), normals: pick(whole.normals) };
    const held = fineAlign(strip, master, motion(0, [0, 0, 0]));
    expect(held.pointError).toBeGreaterThan(2 * usual.pointError);
    expect(held.spread).toBeLessThan(usual.spread);
    expect(usual.spread).toBe(1);
  });
  it('of too few points says that it knows nothing', () => {
    const few: Sample = { ...exact, count: 20, points: exact.points.slice(0, 60), normals: exact.normals.slice(0, 60) };
    const fit = fineAlign(few, master, motion(0, [0, 0, 0]));
    expect(fit.stableArea).toBe(0);
    expect(fit.pointError).toBe(Number.POSITIVE_INFINITY);
  });
});

describe('the size of a scan', () => {
  const sized = (factor: number, noise = 0.02): ReturnType<typeof sizeOf> => {
    const s = scanned(noise);
    return sizeOf({ ...s, points: s.points.map((x) => x * factor) }, master, motion(0, [0, 0, 0]), noise);
  };
  it.each([1, 1.003, 1.015, 0.99])('of %f times its master is read as such, as surely as it says', (factor) => {
    const size = sized(factor);
    if (!size) throw new Error('a size was expected');
    expect(Math.abs(size.factor - factor)).toBeLessThan(Math.max(3e-4, 2.5 * size.u));
    expect(size.u).toBeLessThan(0.002);
  });
  it('is told where it is surely off, and then widens what rests on it', () => {
    expect(isSizeOff({ factor: 1.015, u: 0.0005 })).toBe(true);
    expect(isSizeOff({ factor: 0.985, u: 0.0005 })).toBe(true);
    expect(isSizeOff({ factor: 1.002, u: 0.0001 })).toBe(false);
    // Off by more than usual, but it might as well not be.
    expect(isSizeOff({ factor: 1.006, u: 0.004 })).toBe(false);
    // 1 % of the 5 mm from a tooth's middle to its sides.
    expect(sizeError({ factor: 1.01, u: 0.0005 })).toBeCloseTo(0.05, 9);
    expect([sizeError({ factor: 1.001, u: 0.0005 }), sizeError(null)]).toEqual([0, 0]);
  });
  it('is not known of a scan of which hardly anything is left uncut', () => {
    const s = scanned(0.02);
    const few: Sample = { ...s, count: 60, points: s.points.slice(0, 180), normals: s.normals.slice(0, 180) };
    expect(sizeOf(few, master, motion(0, [0, 0, 0]), 0.02)).toBeNull();
  });
});

describe('the table of nearest vertices', () => {
  const field = nearestField(surface);
  const p = sheet.positions;
  const nearest = (q: Vec3): number => {
    let least = Number.POSITIVE_INFINITY;
    for (let v = 0; v < p.length / 3; v++) least = Math.min(least, Math.hypot(p[3 * v] - q[0], p[3 * v + 1] - q[1], p[3 * v + 2] - q[2]));
    return least;
  };
  it('is made once for a surface', () => expect(nearestField(surface)).toBe(field));
  it('names a vertex that is hardly farther than the nearest one', () => {
    const random = seeded(8);
    for (let i = 0; i < 60; i++) {
      const q: Vec3 = [random.between(-9, 9), random.between(-9, 9), random.between(-4, 4)];
      const v = nearVertex(field, ...q);
      expect(v).toBeGreaterThanOrEqual(0);
      // From the middle of a cell: half a cell's diagonal twice.
      const d = Math.hypot(p[3 * v] - q[0], p[3 * v + 1] - q[1], p[3 * v + 2] - q[2]);
      expect(d - nearest(q)).toBeLessThan(Math.sqrt(3) * field.cell);
    }
  });
  it('names none far away', () => expect(nearVertex(field, 200, 0, 0)).toBe(-1));
});
