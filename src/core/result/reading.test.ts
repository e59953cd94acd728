import { describe, expect, it } from 'vitest';
import { expanded, REFUSALS, reading, refusal } from './reading.ts';

describe('a reading', () => {
  it('carries value, U and unit, and no reason', () =>
    expect(reading({ name: 'margin.width', zone: 'facial', stat: 'median', value: 0.6, U: 0.04 })).toMatchObject({
      value: 0.6,
      U: 0.04,
      unit: 'mm',
      reason: null,
    }));
  it.each([
    [Number.NaN, 0.1],
    [Number.POSITIVE_INFINITY, 0.1],
    [1, Number.NaN],
  ])('of %s ± %s is none, and says so instead', (value, U) =>
    expect(reading({ name: 'wall.angle', stat: 'mean', value, U })).toMatchObject({
      value: null,
      U: null,
      reason: 'no-number',
      stat: 'mean',
    }),
  );
});

describe('a refusal', () => {
  it('names each statistic that is missing, and a reason that has its sentence', () => {
    const r = refusal('margin.width', 'mesial', ['min', 'max'], 'not-seen', 0.3);
    expect(r.map((q) => [q.stat, q.value, q.coverage])).toEqual([
      ['min', null, 0.3],
      ['max', null, 0.3],
    ]);
    for (const sentence of Object.values(REFUSALS)) expect(sentence).toMatch(/^[a-z].{10,}[^.]$/);
  });
});

describe('expanded uncertainty', () => {
  it('is twice the root sum of squares', () => {
    expect(expanded(0.03, 0.04)).toBeCloseTo(0.1);
    expect(expanded()).toBe(0);
  });
});
