import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { entryOf } from '../catalogue/catalogue.ts';
import { inSector, SECTORS } from '../linalg/sectors.ts';
import { type AroundOptions, aroundStats } from './around-stats.ts';

const N = 180;
const azimuths = Array.from({ length: N }, (_, k) => 2 * k);
const MESIAL = SECTORS.find((s) => s.name === 'mesial') as (typeof SECTORS)[number];
const of = (values: readonly (number | null)[], change: Partial<AroundOptions> = {}) =>
  aroundStats({
    name: 'margin.width',
    values,
    azimuths,
    covered: azimuths.map(() => true),
    stats: ['min', 'median', 'max'],
    each: 0.01,
    common: 0,
    reason: 'no-finish-line',
    ...change,
  });
const pick = (all: ReturnType<typeof of>, zone: string | null, stat: string) =>
  all.find((r) => r.zone === zone && r.stat === stat) as ReturnType<typeof of>[number];

/** A curve whose value is its azimuth, so that each zone's figures are known. */
const ramp = azimuths.map((a) => a / 100);

describe('figures of a curve round the tooth', () => {
  const all = of(ramp);
  it('are those of the whole way round, and of each sector by itself', () => {
    expect(pick(all, null, 'min').value).toBe(0);
    expect(pick(all, null, 'max').value).toBeCloseTo(3.58, 9);
    expect(pick(all, 'mesial', 'median').value).toBeCloseTo(MESIAL.centre / 100, 1);
    expect(new Set(all.map((r) => r.zone)).size).toBe(1 + SECTORS.length);
  });
  it('lie where they were found', () => {
    expect(pick(all, 'lingual', 'max').at?.azimuth).toBeCloseTo(100 * (pick(all, 'lingual', 'max').value as number), 6);
    expect(pick(all, 'lingual', 'min').at?.azimuth).toBeCloseTo(100 * (pick(all, 'lingual', 'min').value as number), 6);
  });
  it('are in order whatever the curve', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: N, maxLength: N }), (values) => {
        const r = of(values);
        for (const zone of [null, ...SECTORS.map((s) => s.name)]) {
          const [a, b, c] = ['min', 'median', 'max'].map((s) => pick(r, zone, s).value as number);
          expect(a <= b && b <= c).toBe(true);
        }
      }),
      { numRuns: 40, seed: 20261126 },
    ));
});

describe('a part that is not there', () => {
  it('is refused as not covered where the preparation does not cover it, and as not read where it was not read', () => {
    const half = azimuths.map((a) => a < 180);
    const r = of(
      ramp.map((v, k) => (azimuths[k] > 60 ? v : null)),
      { covered: half },
    );
    expect(pick(r, 'distal', 'median')).toMatchObject({ value: null, reason: 'not-covered' });
    expect(pick(r, 'mesiofacial', 'median')).toMatchObject({ value: null, reason: 'no-finish-line' });
    expect(pick(r, 'mesial', 'median').value).not.toBeNull();
  });
  it('leaves the rest its own figures', () => {
    const holes = ramp.map((v, k) => (k % 10 === 3 ? null : v));
    expect(pick(of(holes), 'lingual', 'max').value).toBeCloseTo(pick(of(ramp), 'lingual', 'max').value as number, 1);
    expect(pick(of(holes), 'lingual', 'max').coverage).toBeCloseTo(0.9, 1);
  });
});

describe('how sure a figure is', () => {
  const method = entryOf('margin.width').method as { middle: number; edge: number };
  it('under uniform noise: a mean of many values averages it, an extreme carries all of it', () => {
    const r = of(ramp);
    const n = azimuths.filter((a) => inSector(a, MESIAL)).length;
    expect(pick(r, 'mesial', 'median').U).toBeCloseTo(2 * Math.hypot(method.middle, 0.01 / Math.sqrt(n / 6)), 3);
    expect(pick(r, 'mesial', 'max').U).toBeCloseTo(2 * Math.hypot(method.edge, 0.01), 6);
  });
  it('from the zone’s own scatter: where single places lie farther off, less sure, and only there', () => {
    const off = azimuths.map((a) => (inSector(a, MESIAL) ? 0.1 : 0.02));
    const r = of(ramp, { each: { off, middle: 0.4, low: 0.6, high: 0.9 } });
    expect(pick(r, 'mesial', 'median').U).toBeCloseTo(2 * Math.hypot(method.middle, 0.04), 6);
    expect(pick(r, 'mesial', 'max').U).toBeCloseTo(2 * Math.hypot(method.edge, 0.09), 6);
    expect(pick(r, 'mesial', 'min').U).toBeCloseTo(2 * Math.hypot(method.edge, 0.06), 6);
    expect(pick(r, 'distal', 'median').U).toBeCloseTo(2 * Math.hypot(method.middle, 0.008), 6);
  });
  it('a zone without places of its own scatters as the whole does', () => {
    const off = azimuths.map((a) => (inSector(a, MESIAL) ? null : 0.05));
    const r = of(ramp, { each: { off, middle: 0.4, low: 0.6, high: 0.9 } });
    expect(pick(r, 'mesial', 'median').U).toBeCloseTo(2 * Math.hypot(method.middle, 0.02), 6);
  });
  it('a pose that is less sure makes every one of them less sure', () => {
    const [steady, loose] = [of(ramp), of(ramp, { common: 0.05 })];
    for (const [i, r] of loose.entries()) expect(r.U as number).toBeGreaterThan(steady[i].U as number);
  });
});
