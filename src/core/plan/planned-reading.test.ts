import { describe, expect, it } from 'vitest';
import type { StandardField } from '../score/standard.ts';
import { USUAL_HAND } from './hand.ts';
import { isConvergence, isDepth, isPlanned, plannedReading } from './planned-reading.ts';

const field = (reading: string, lo: number | null, hi: number | null, more: Partial<StandardField> = {}): StandardField =>
  ({ id: 'f', reading, zone: null, stat: 'median', unit: 'mm', band: { lo, hi }, from: 'school', ...more }) as StandardField;
const planned = (f: StandardField, left = 0, convergence: number | null = null) => plannedReading(f, left, USUAL_HAND, convergence);

describe('what a step works towards', () => {
  it('a depth between two ends is aimed at their middle, less what is left for later', () => {
    const now = planned(field('margin.width', 0.4, 0.8));
    expect(now?.final).toBeCloseTo(0.6, 6);
    expect(now?.expected).toBeCloseTo(0.6, 6);
    const later = planned(field('margin.width', 0.4, 0.8), 0.25);
    expect(later?.expected).toBeCloseTo(0.35, 6);
    expect(later?.final).toBeCloseTo(0.6, 6);
  });
  it('more than is wanted cannot be left', () => expect(planned(field('margin.width', 0.4, 0.8), 2)?.expected).toBe(0));
  it('“at least” is aimed over, or half of all would fall short by a hair', () =>
    expect(planned(field('reduction.occlusal', 1.5, null, { zone: 'MB' }))?.final).toBeGreaterThan(1.5));
  it('a convergence is what walls and cutter make it', () =>
    expect(planned(field('toc.mesiodistal', 6, 14, { stat: 'mean', unit: 'deg' }), 0, 9)?.final).toBe(9));
  it('a hand that is sure ends inside more often, never more than always', () => {
    const share = planned(field('margin.width', 0.4, 0.8))?.inside as number;
    const narrow = planned(field('margin.width', 0.55, 0.65))?.inside as number;
    expect(share).toBeGreaterThan(narrow);
    expect(share).toBeLessThanOrEqual(1);
    expect(narrow).toBeGreaterThan(0);
  });
  it('what no cutter decides is not aimed at: roughness, room over an opposing tooth, extremes of many places', () => {
    for (const f of [
      field('surface.rough', null, 0.02),
      field('clearance.static', 1, null, { stat: 'min', zone: 'MB' }),
      field('reduction.occlusal', 1.5, null, { stat: 'p05', zone: 'MB' }),
    ])
      expect(planned(f)).toBeNull();
  });
  it('a margin’s height is aimed at only where both its ends are given', () => {
    expect(planned(field('margin.gingiva', 0.2, null))).toBeNull();
    expect(planned(field('margin.gingiva', 0.2, 0.8))?.final).toBeCloseTo(0.5, 6);
  });
});

describe('kinds of figures', () => {
  it('depths are what a cutter is sunk to, convergences what walls make together', () => {
    expect(isDepth('pin.depth')).toBe(true);
    expect(isDepth('margin.width')).toBe(true);
    expect(isDepth('margin.gingiva')).toBe(false);
    expect(isConvergence('toc.faciolingual')).toBe(true);
    expect(isConvergence('wall.angle')).toBe(false);
  });
  it('ends of a distribution are an outcome and no aim', () => {
    expect(isPlanned({ reading: 'margin.width', stat: 'median' })).toBe(true);
    expect(isPlanned({ reading: 'margin.width', stat: 'p95' })).toBe(false);
  });
});
