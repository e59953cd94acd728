import { expect, it } from 'vitest';
import { planeOf, planeThrough } from './plane.ts';
import type { Vec3 } from './vec.ts';

/** A square grid on z = 2 + x/10, every second place set off its plane to both sides by so much. */
const grid = (off: number): Vec3[] =>
  Array.from({ length: 100 }, (_, i) => [
    i % 10,
    Math.floor(i / 10),
    2 + (i % 10) / 10 + (((i % 10) + Math.floor(i / 10)) % 2 ? off : -off),
  ]);

it('the nearest plane of points on one has its normal and leaves nothing', () => {
  const p = planeOf(grid(0));
  const up = (p?.normal[2] ?? 0) < 0 ? -1 : 1;
  expect(up * (p?.normal[0] ?? 0)).toBeCloseTo(-0.1 / Math.hypot(1, 0.1), 6);
  expect(p?.rms).toBeLessThan(1e-7);
  expect(p?.centre).toEqual([4.5, 4.5, expect.closeTo(2.45, 9)]);
});
it('what stands off it to both sides is left, seen square to the plane', () =>
  expect(planeOf(grid(0.2))?.rms).toBeCloseTo(0.2 / Math.hypot(1, 0.1), 3));
it('a place counts by the area that it stands for', () => {
  const three: Vec3[] = [
    [0, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
  ];
  expect(planeOf(three, [2, 1, 1])?.centre).toEqual([0.25, 0.25, 0]);
  expect(planeOf(three, [0, 0, 0])).toBeNull();
  expect(planeOf(three.slice(0, 2))).toBeNull();
});
it('points in one line, seen along the axis, span no plane', () => {
  expect(planeThrough([0, 3, 6].map((x): Vec3 => [x, x / 2, x]))).toBeNull();
  expect(planeThrough([...grid(0).slice(0, 3), [0, 9, 2]])?.normal[0]).toBeCloseTo(-0.1 / Math.hypot(1, 0.1), 6);
});
