import { expect, it } from 'vitest';
import { concerns, isGrave } from './concerns.ts';
import type { Rubric } from './rubric.ts';
import type { Band } from './verdict.ts';

const all: Band = { lo: null, hi: null };
const shares = (...of: number[]) => of.map((share, i) => ({ level: 3 - i, word: '', share }));
const LEVELS = shares(1, 0.8, 0.5, 0);
const rubric = (band: Band, fair: Band = all, poor: Band = all, weight = 100) =>
  ({
    criteria: [
      {
        id: 'w',
        title: 'Width',
        weight,
        why: '',
        targets: [{ reading: 'margin.width', zone: 'facial', stat: 'median', band, fair, poor }],
      },
    ],
    critical: [],
    levels: LEVELS,
  }) as unknown as Pick<Rubric, 'criteria' | 'critical' | 'levels'>;
const U = new Map([['margin.width|facial|median', 0.08]]);

it('a sound rubric raises nothing', () => expect(concerns(rubric({ lo: 0.3, hi: 0.7 }), U)).toEqual([]));
it('a band narrower than the reading is sure is grave: nobody could be called inside', () => {
  const [c] = concerns(rubric({ lo: 0.5, hi: 0.55 }), U);
  expect([c.kind, isGrave(c)]).toEqual(['narrow', true]);
  // “At most 0.05” leaves from nothing to 0.05; “at least 0.5” has no end.
  expect(concerns(rubric({ lo: null, hi: 0.05 }), U).map((q) => q.kind)).toEqual(['narrow']);
  expect(concerns(rubric({ lo: 0.5, hi: null }), U)).toEqual([]);
});
it('bands lie in one another, and begin before they end', () => {
  expect(concerns(rubric({ lo: 0.7, hi: 0.3 }), new Map())).toMatchObject([{ which: 'band' }]);
  expect(concerns(rubric({ lo: 0.3, hi: 0.7 }, { lo: 0.4, hi: 0.8 }), new Map())).toMatchObject([{ which: 'fair' }]);
  expect(concerns(rubric({ lo: 0.3, hi: 0.7 }, { lo: 0.2, hi: 0.8 }, { lo: 0.25, hi: 1 }), new Map())).toMatchObject([{ which: 'poor' }]);
});
it('a line that weighs nothing is told, not refused', () => {
  const found = concerns(rubric({ lo: 0.3, hi: 0.7 }, all, all, 0), new Map());
  expect([found, found.some(isGrave)]).toEqual([[{ kind: 'empty', criterion: 'w' }], false]);
});
it('what nothing could be outside of is grave: a line or a critical error without a limit would always be fine', () => {
  const error = { id: 'e', title: 'E', reading: 'margin.width', zone: null, stat: 'min', allowed: all, effect: { kind: 'fail' } } as const;
  const found = concerns({ ...rubric(all), critical: [error] }, new Map());
  expect(found).toEqual([
    { kind: 'limitless', criterion: 'w', target: 0 },
    { kind: 'limitless', criterion: 'e', target: null },
  ]);
  expect(found.every(isGrave)).toBe(true);
});
it('a lower level is worth less than the one above it', () => {
  const of = (...s: number[]) => concerns({ ...rubric({ lo: 0.3, hi: 0.7 }), levels: shares(...s) as never }, new Map());
  expect(of(1, 0.75, 0.25, 0)).toEqual([]);
  expect(of(1, 0.8, 0.8, 0)).toEqual([{ kind: 'shares', criterion: '', level: 1 }]);
});
