import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { madSigma, mean, median, quantile, rms, weightedQuantiles } from './quantile.ts';
import { seeded } from './random.ts';

const numbers = fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 1, maxLength: 60 });

describe('quantiles', () => {
  it('of equal weights are the Hazen positions', () => {
    // Five values: the middle one at 0.5, the first at 0.1, half way between the first two at 0.2.
    const q = (p: number) => weightedQuantiles([10, 20, 30, 40, 50], [1, 1, 1, 1, 1], [p])[0];
    expect([q(0.5), q(0.1), q(0.2), q(0), q(1)]).toEqual([30, 10, 15, 10, 50]);
  });
  it('a weight of two counts like the value twice', () => {
    const twice = weightedQuantiles([1, 2, 2, 3], [1, 1, 1, 1], [0.5]);
    expect(weightedQuantiles([1, 2, 3], [1, 2, 1], [0.5])).toEqual(twice);
  });
  it('equal values of unequal weights do not hang on who came first', () => {
    // In order of weight the middles are 0.5, 2 and 4.5 of 6: half of it lies 2/5 of the way from the second to the third.
    expect(weightedQuantiles([0, 0, 1000], [1, 2, 3], [0.5])[0]).toBeCloseTo(400, 9);
    expect(weightedQuantiles([1000, 0, 0], [3, 2, 1], [0.5])[0]).toBeCloseTo(400, 9);
  });
  const tied = fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 1, maxLength: 60 });
  it('are independent of order and grow with their share', () =>
    fc.assert(
      fc.property(fc.oneof(numbers, tied), (v) => {
        const w = v.map((_, i) => 1 + (i % 3));
        const [lo, mid, hi] = weightedQuantiles(v, w, [0.1, 0.5, 0.9]);
        const back = weightedQuantiles([...v].reverse(), [...w].reverse(), [0.5])[0];
        expect(lo).toBeLessThanOrEqual(mid + 1e-9);
        expect(mid).toBeLessThanOrEqual(hi + 1e-9);
        expect(back).toBeCloseTo(mid, 6);
        expect(lo).toBeGreaterThanOrEqual(Math.min(...v) - 1e-9);
        expect(hi).toBeLessThanOrEqual(Math.max(...v) + 1e-9);
      }),
      { numRuns: 1000, seed: 20261129 },
    ));
  it('plain ones are linear between order statistics', () => {
    expect(quantile([4, 1, 3, 2], 0)).toBe(1);
    expect(quantile([4, 1, 3, 2], 1)).toBe(4);
    expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
  });
});

describe('middles and spreads', () => {
  it('the median of an even number lies between the middle two; an empty list has none', () => {
    expect([median([3, 1, 2]), median([4, 1, 2, 3])]).toEqual([2, 2.5]);
    expect(() => median([])).toThrow(/no values/);
  });
  it('mean and root mean square', () => {
    expect(mean([1, 2, 6])).toBe(3);
    expect(rms([3, 4, 0, 0])).toBe(2.5);
  });
  it('the robust spread of normal numbers is their standard deviation, whatever a few wild ones do', () => {
    const random = seeded(5);
    const v = Array.from({ length: 4000 }, () => 2 * random.normal());
    expect(madSigma(v)).toBeCloseTo(2, 0);
    expect(madSigma([...v, ...Array.from({ length: 200 }, () => 1e6)])).toBeCloseTo(2, 0);
  });
});

describe('seeded random numbers', () => {
  it('are the same for the same seed and stay in their range', () => {
    const [a, b, c] = [seeded(7), seeded(7), seeded(8)];
    const draw = (r: typeof a) => Array.from({ length: 50 }, () => r.between(-2, 3));
    const first = draw(a);
    expect(draw(b)).toEqual(first);
    expect(draw(c)).not.toEqual(first);
    expect(Math.min(...first)).toBeGreaterThanOrEqual(-2);
    expect(Math.max(...first)).toBeLessThan(3);
  });
  it('normal ones have mean 0 and deviation 1', () => {
    const r = seeded(3);
    const v = Array.from({ length: 20_000 }, () => r.normal());
    expect(Math.abs(mean(v))).toBeLessThan(0.03);
    expect(Math.abs(rms(v) - 1)).toBeLessThan(0.03);
  });
});
