import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { area, containment, contains, crossings, lengthInside, nearestOn, type Plan, smoothed } from './plan.ts';

const square: Plan = [
  [-2, -1],
  [2, -1],
  [2, 1],
  [-2, 1],
];
const circle = (r: number, n = 120): Plan =>
  Array.from({ length: n }, (_, i) => [r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)]);

describe('a closed curve', () => {
  it('has its area, positive counter-clockwise', () => {
    expect(area(square)).toBe(8);
    expect(area([...square].reverse())).toBe(-8);
  });
  it('holds what is inside and nothing else', () =>
    fc.assert(
      fc.property(fc.double({ min: -4, max: 4, noNaN: true }), fc.double({ min: -4, max: 4, noNaN: true }), (x, y) => {
        const margin = Math.min(Math.abs(Math.abs(x) - 2), Math.abs(Math.abs(y) - 1));
        fc.pre(margin > 1e-9);
        expect(contains(square, x, y)).toBe(Math.abs(x) < 2 && Math.abs(y) < 1);
      }),
      { seed: 2 },
    ));
  it('is as far away as its nearest side', () => {
    expect(nearestOn(square, 5, 0).distance).toBe(3);
    expect(nearestOn(square, 3, 2).distance).toBeCloseTo(Math.SQRT2, 12);
  });
  it('is crossed where a line crosses it, in order', () => expect(crossings(square, 0, 0, 1, 0)).toEqual([-2, 2]));
  it('takes in its part of a line', () => {
    const { inside, whole } = lengthInside(square, [
      [-4, 0],
      [4, 0],
    ]);
    expect(whole).toBe(8);
    expect(inside).toBeCloseTo(4, 1);
  });
  it('keeps its middle when it is smoothed, and shrinks a circle by what averaging takes', () => {
    const r = smoothed(circle(3), 3).map((p) => Math.hypot(p[0], p[1]));
    const expected = (3 * [-3, -2, -1, 0, 1, 2, 3].reduce((s, j) => s + Math.cos((2 * Math.PI * j) / 120), 0)) / 7;
    for (const v of r) expect(v).toBeCloseTo(expected, 9);
  });
});

describe('many points of one plan', () => {
  const star: Plan = Array.from({ length: 40 }, (_, i) => {
    const [a, r] = [(Math.PI * i) / 20, i % 2 ? 1.2 : 2.6];
    return [r * Math.cos(a), r * Math.sin(a)];
  });
  it('get the same answers as one by one', () => {
    const inside = containment(star);
    for (let x = -3; x <= 3; x += 0.037) for (let y = -3; y <= 3; y += 0.41) expect(inside(x, y)).toBe(contains(star, x, y));
  });
});
