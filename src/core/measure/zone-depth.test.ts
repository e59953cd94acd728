import { describe, expect, it } from 'vitest';
import type { TargetRegion } from '../segment/target.ts';
import { zoneDepth } from './zone-depth.ts';

/** Points on a level square of 4 mm, a fifth of a millimetre apart, with a depth each. */
function region(depth: (x: number, y: number) => number, depthNoise = 0): TargetRegion {
  const side = 21;
  const xy = Array.from({ length: side * side }, (_, i) => [(i % side) / 5 - 2, Math.floor(i / side) / 5 - 2]);
  return {
    mesh: { frame: 'tooth', positions: Float64Array.from(xy.flatMap(([x, y]) => [x, y, 5])), triangles: new Uint32Array(0) },
    depth: Float64Array.from(xy.map(([x, y]) => depth(x, y))),
    areas: new Float64Array(xy.length).fill(0.04),
    depthNoise,
  } as unknown as TargetRegion;
}
const read = (r: TargetRegion, more: object = {}) =>
  zoneDepth({
    name: 'reduction.occlusal',
    zone: 'MB',
    region: r,
    vertices: Array.from(r.depth.keys()),
    coverage: 1,
    alignment: 0.01,
    reason: 'nothing-prepared',
    ...more,
  });
const of = (readings: ReturnType<typeof read>, stat: string) => readings.find((r) => r.stat === stat && r.name === 'reduction.occlusal');

describe('the depth of a zone', () => {
  it('that is even is the same at its thinnest, in the middle and at its deepest', () => {
    const readings = read(region(() => 1.4));
    for (const stat of ['p05', 'median', 'p95']) expect(of(readings, stat)?.value).toBeCloseTo(1.4, 9);
  });
  it('that slopes evenly has its quantiles where a ramp has them', () => {
    // From 1 to 2 mm along x: 5 % at 1.05, half at 1.5, 95 % at 1.95, to the points' own distance.
    const readings = read(region((x) => 1.5 + x / 4));
    expect(of(readings, 'p05')?.value).toBeCloseTo(1.05, 1);
    expect(of(readings, 'median')?.value).toBeCloseTo(1.5, 6);
    expect(of(readings, 'p95')?.value).toBeCloseTo(1.95, 1);
  });
  it('is shown at a place that has it', () => {
    const thin = of(read(region((x) => 1.5 + x / 4)), 'p05');
    expect(thin?.at?.point?.[0]).toBeLessThan(-1.5);
  });
  it('has an area of its points’ own', () => {
    const area = read(region(() => 1)).find((r) => r.name === 'reduction.occlusal.area');
    expect(area?.value).toBeCloseTo(441 * 0.04, 9);
    expect(area?.U).toBeCloseTo(0.07 * 441 * 0.04, 9);
  });
  it('whose end may lie elsewhere has an area as unsure as that', () => {
    const r = region(() => 1);
    const less = Array.from(r.depth.keys()).filter((v) => r.mesh.positions[3 * v] < 1.5);
    const area = read(r, { otherwise: [less] }).find((q) => q.name === 'reduction.occlusal.area');
    expect(area?.U).toBeCloseTo(2 * Math.hypot(0.035 * 441, 441 - less.length) * 0.04, 9);
  });
  it('is less sure on a noisy scan, at its ends more so than in the middle', () => {
    const [calm, noisy] = [read(region(() => 1)), read(region(() => 1, 0.05))];
    for (const stat of ['p05', 'median', 'p95']) expect(of(noisy, stat)?.U as number).toBeGreaterThan(of(calm, stat)?.U as number);
    expect(of(noisy, 'p05')?.U as number).toBeGreaterThan(of(noisy, 'median')?.U as number);
  });
  it('whose end may lie elsewhere is the less sure the more its depth changes towards it', () => {
    const without = (r: TargetRegion) => Array.from(r.depth.keys()).filter((v) => r.mesh.positions[3 * v] < 1.5);
    const [ramp, even] = [region((x) => 1.5 + x / 4), region(() => 1.5)];
    const [sure, unsure] = [read(ramp), read(ramp, { otherwise: [without(ramp)] })];
    // Without its last 0.6 mm the ramp's middle lies 0.3 mm back: 0.075 mm of depth, twice that in U.
    const wider = (of(unsure, 'median')?.U as number) ** 2 - (of(sure, 'median')?.U as number) ** 2;
    expect(Math.sqrt(wider)).toBeCloseTo(0.15, 2);
    expect(of(unsure, 'median')?.value).toBe(of(sure, 'median')?.value);
    expect(of(read(even, { otherwise: [without(even)] }), 'p05')?.U).toBeCloseTo(of(read(even), 'p05')?.U as number, 9);
  });
  it('noise that is known does not spread its ends', () => {
    const wave = (x: number, y: number): number => 1.2 + 0.1 * Math.sin(37 * x + 91 * y);
    const spread = (noise: number): number => {
      const r = read(region(wave, noise));
      return (of(r, 'p95')?.value as number) - (of(r, 'p05')?.value as number);
    };
    expect(spread(0.07)).toBeLessThan(0.5 * spread(0));
  });
  it('is refused where too little of it is seen, or nothing was cut: no figure, and the reason', () => {
    for (const r of read(
      region(() => 1),
      { coverage: 0.3 },
    ))
      expect([r.value, r.reason]).toEqual([null, 'not-seen']);
    for (const r of read(
      region(() => 1),
      { vertices: [1, 2, 3] },
    ))
      expect([r.value, r.reason]).toEqual([null, 'nothing-prepared']);
  });
});
