import { expect, it } from 'vitest';
import { concerns, isGrave } from './concerns.ts';
import type { Rubric } from './rubric.ts';
import type { Band } from './verdict.ts';

const all: Band = { lo: null, hi: null };
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
  }) as unknown as Pick<Rubric, 'criteria'>;
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
  const found = concerns(rubric(all, all, all, 0), new Map());
  expect([found, found.some(isGrave)]).toEqual([[{ kind: 'empty', criterion: 'w' }], false]);
});
