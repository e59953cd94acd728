import { describe, expect, it } from 'vitest';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Wall } from '../../segment/crown/wall.ts';
import { blunting, coarseness } from './blunting.ts';
import { wallScatter } from './wall-scatter.ts';

describe('how much a scan blunts an edge', () => {
  it.each([
    [0.08, 0],
    [0.13, 0],
    [0.23, 0.035],
    [0.33, 0.07],
  ])('with points %s mm apart it is %s mm', (spacing, u) => expect(blunting({ spacing })).toBeCloseTo(u, 9));
});

it.each([
  [0.08, 1],
  [0.13, 1],
  [0.26, 2],
])('points %s mm apart stand %s times as far apart as usual', (spacing, times) => expect(coarseness({ spacing })).toBeCloseTo(times, 9));

describe('how sure a wall’s line is', () => {
  const wall = (lean: number, u: number, length: number): Wall => ({ lean, u, from: 10, to: 10 + Math.round(length / STEP) }) as Wall;
  it('follows how far it leans off its neighbours and its own noise', () => {
    // 3 and 4 are a right triangle's sides; 100 mm of wall add 0.007°.
    expect(wallScatter(wall(8, 4, 100), 5)).toBeCloseTo(5, 4);
  });
  it('falls with the wall’s length: a quarter of it is four times less sure', () => {
    const [short, long] = [wallScatter(wall(5, 0, 8 * STEP), 5), wallScatter(wall(5, 0, 32 * STEP), 5)];
    expect(short / long).toBeCloseTo(4, 9);
  });
  it('is never nothing, even of a wall of one point', () => {
    expect(Number.isFinite(wallScatter(wall(5, 0, 0), 5))).toBe(true);
  });
});
