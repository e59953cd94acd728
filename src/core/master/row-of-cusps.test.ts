import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../linalg/vec.ts';
import { lineBeside } from './row-of-cusps.ts';

const cusps = (facialIsFunctional: boolean) => [
  { name: 'F', role: facialIsFunctional ? ('functional' as const) : ('non-functional' as const), at: [0, 3, 7] as Vec3 },
  { name: 'L', role: facialIsFunctional ? ('non-functional' as const) : ('functional' as const), at: [0, -3, 7] as Vec3 },
];
/** Facial tips on y = 2 + x/10, lingual ones on y = −2. */
const neighbourCusps = {
  mesial: [
    [8, 2.8, 6],
    [8, -2, 6],
  ] as Vec3[],
  distal: [
    [-8, 1.2, 7],
    [-8, -2, 7],
  ] as Vec3[],
};

describe('the row of the neighbours’ cusps', () => {
  it('runs through their tips on the functional side; facial of it is +', () => {
    const facial = lineBeside({ cusps: cusps(true), neighbourCusps });
    expect(facial?.from([0, 3, 0])).toBeCloseTo(1 / Math.hypot(1, 0.1), 6);
    expect(lineBeside({ cusps: cusps(false), neighbourCusps })?.from([3, -2.5, 9])).toBeCloseTo(-0.5, 6);
  });
  it('is drawn from the outermost tip to the other, at their mean height', () => {
    const ends = lineBeside({ cusps: cusps(true), neighbourCusps })?.ends ?? [];
    expect(ends.map((p) => p.map((v) => Math.round(v * 1e6) / 1e6))).toEqual([
      [8, 2.8, 6.5],
      [-8, 1.2, 6.5],
    ]);
  });
  it('takes a neighbour’s only tip for its row', () => {
    const canine = { ...neighbourCusps, mesial: [[8, 2.8, 8] as Vec3] };
    expect(lineBeside({ cusps: cusps(false), neighbourCusps: canine })?.from([8, 2.8, 0])).toBeCloseTo(0, 6);
  });
  it('is none without tips on both sides', () => {
    expect(lineBeside({ cusps: cusps(true) })).toBeNull();
    expect(lineBeside({ cusps: cusps(true), neighbourCusps: { ...neighbourCusps, distal: [] } })).toBeNull();
  });
});
