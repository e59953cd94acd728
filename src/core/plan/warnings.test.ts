import { describe, expect, it } from 'vitest';
import type { OwnCutter } from './choose.ts';
import { USUAL_HAND } from './hand.ts';
import { warningsOf } from './warnings.ts';

const cutter = (change: Partial<OwnCutter> = {}): OwnCutter => ({
  id: 'c',
  name: 'round-end taper',
  form: 'taper',
  tip: 'round',
  shank_mm: 1.8,
  tip_mm: 1.2,
  length_mm: 6,
  cutsAtEnd: true,
  grit: 'medium',
  ...change,
});
type At = Parameters<typeof warningsOf>[2];
const at = (change: Partial<At> = {}): At => ({
  of: { tooth: '16', standard: { lines: [] } },
  readings: [],
  left: 0,
  deep: null,
  width: null,
  tilt: null,
  convergence: null,
  isthmus: null,
  hand: USUAL_HAND,
  ...change,
});
const kinds = (...args: Parameters<typeof warningsOf>): string[] => warningsOf(...args).map((w) => w.kind);

it('a step without a duty has none, and one without a cutter says so first', () => {
  expect(warningsOf(null, null, at())).toEqual([]);
  expect(warningsOf('axial', null, at())).toEqual([{ kind: 'no-cutter', duty: 'axial' }]);
});

describe('a margin', () => {
  it('as wide as half the round tip is cut in one pass', () => expect(kinds('margin', cutter(), at({ width: 0.6 }))).toEqual([]));
  it('wider than that has a lip, in as many passes as it takes', () => {
    const [lip] = warningsOf('margin', cutter(), at({ width: 1 }));
    expect(lip).toMatchObject({ kind: 'lip', width: 1, widest: 0.6, passes: 2 });
    // Sunk by 1.0 of a tip of radius 0.6 it has come 0.4 past its middle: 0.6 − √(0.6² − 0.4²) = 0.153.
    expect((lip as { lip: number }).lip).toBeCloseTo(0.6 - Math.sqrt(0.6 ** 2 - 0.4 ** 2), 3);
  });
  it('cannot be cut clean by a point', () =>
    expect(kinds('margin', cutter({ tip: 'pointed', tip_mm: 0.2 }), at({ width: 0.8 }))).toEqual(['no-clean-margin']));
});

describe('a floor', () => {
  it('deeper than its cutter is long is told', () =>
    expect(warningsOf('floor', cutter({ length_mm: 2 }), at({ deep: 2.4 }))).toEqual([{ kind: 'short', depth: 2.4, length: 2 }]));
  it('is not cut by a tip wider than its isthmus', () =>
    expect(warningsOf('floor', cutter({ tip_mm: 1.2 }), at({ isthmus: 1 }))).toEqual([{ kind: 'too-wide', tip: 1.2, hi: 1 }]));
});

describe('a box', () => {
  const standard = {
    lines: [
      {
        fields: [
          { reading: 'box.axialdepth', band: { lo: 1, hi: 1.4 } },
          { reading: 'instrument.fit(2.0)', band: { lo: 1, hi: null } },
          { reading: 'instrument.fit(0.8)', band: { lo: 1, hi: null } },
        ],
      },
    ],
  } as unknown as At['of']['standard'];
  it('that opens less far than the instrument it must take is told, once for each that will not go', () => {
    const found = warningsOf('box', cutter(), at({ of: { tooth: '16', standard } }));
    expect(found.map((w) => (w.kind === 'no-room' ? w.instrument : w.kind))).toEqual([2]);
  });
  it('deeper under the ridge than the cutter reaches is told by how much', () => {
    const of = { tooth: '16', standard: { lines: [] }, ridgeToFloor: 7 };
    expect(warningsOf('box', cutter({ length_mm: 6 }), at({ of }))).toEqual([{ kind: 'out-of-reach', by: expect.any(Number) }]);
    expect(kinds('box', cutter({ length_mm: 9 }), at({ of }))).toEqual([]);
  });
});

it('an allowance that leaves a depth outside of its band is told with what it ends at', () => {
  const readings = [{ reading: 'reduction.occlusal', zone: null, stat: 'median', expected: 1.5, band: { lo: 1.3, hi: 1.6 } }];
  const told = warningsOf('floor', cutter(), at({ left: -0.3, readings: readings as unknown as At['readings'] }));
  expect(told).toEqual([]);
  const over = warningsOf('floor', cutter(), at({ left: 0.3, readings: readings as unknown as At['readings'] }));
  expect(over).toEqual([{ kind: 'allowance', ends: 1.8, band: { lo: 1.3, hi: 1.6 } }]);
});

it('upright walls under a hand that wavers are undercut on the sides that lean out', () => {
  const steady = warningsOf('axial', cutter(), at({ tilt: 20, hand: { ...USUAL_HAND, tilt_deg: 0.5 } }));
  expect(steady).toEqual([]);
  const [shaky] = warningsOf('axial', cutter({ shank_mm: 1.2 }), at({ tilt: 0, hand: { ...USUAL_HAND, tilt_deg: 3 } }));
  expect(shaky.kind === 'undercut' && shaky.sides.length > 0).toBe(true);
});
