import { describe, expect, it } from 'vitest';
import { withoutMixedEnds } from './mixed-ends.ts';
import type { Profile } from './profile.ts';

const leaning = (leans: readonly (number | null)[]): (Profile | null)[] =>
  leans.map((lean) => (lean === null ? null : ({ wall: { lean } } as Profile)));
const stretch = (n: number, from: number, to: number): boolean[] => Array.from({ length: n }, (_, k) => k >= from && k < to);

describe('withoutMixedEnds', () => {
  it('takes planes off both ends that lean otherwise than the wall that follows', () => {
    const leans = Array.from({ length: 40 }, () => 6);
    leans[10] = 50;
    leans[11] = 25;
    leans[29] = -28;
    expect(withoutMixedEnds(stretch(40, 10, 30), leaning(leans))).toEqual(stretch(40, 12, 29));
  });

  it('leaves a wall alone that leans otherwise in its middle, or turns slowly', () => {
    const bump = Array.from({ length: 40 }, (_, k) => (k === 20 ? 40 : 6));
    expect(withoutMixedEnds(stretch(40, 10, 30), leaning(bump))).toEqual(stretch(40, 10, 30));
    const slow = Array.from({ length: 40 }, (_, k) => k);
    expect(withoutMixedEnds(stretch(40, 10, 30), leaning(slow))).toEqual(stretch(40, 10, 30));
  });

  it('goes round the tooth, takes off planes without a wall, and a cover all round has no ends', () => {
    const leans: (number | null)[] = Array.from({ length: 40 }, () => 6);
    leans[35] = null;
    const round = Array.from({ length: 40 }, (_, k) => k >= 35 || k < 8);
    expect(withoutMixedEnds(round, leaning(leans))).toEqual(round.map((c, k) => c && k !== 35));
    const all = round.map(() => true);
    expect(withoutMixedEnds(all, leaning(leans))).toEqual(all);
  });
});
