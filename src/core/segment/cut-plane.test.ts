import { describe, expect, it } from 'vitest';
import { along, plate, revolve } from '../../../test/helpers/shapes.ts';
import { cutByPlane, wideAt } from './cut-plane.ts';

/** A cylinder of radius 4 with a level top at z = 3. */
const cylinder = revolve(
  along(
    [
      [0, 3],
      [4, 3],
      [4, -3],
    ],
    0.3,
  ),
  240,
);

describe('a cylinder cut by an upright plane', () => {
  it.each([
    ['through its axis', [0, 0, 3], [1, 0], 4],
    ['three millimetres beside it', [0, 3, 3], [1, 0], Math.sqrt(7)],
    ['the other way', [2, 0, 3], [0, 1], Math.sqrt(12)],
    ['slantwise', [0, 0, 3], [Math.SQRT1_2, Math.SQRT1_2], 4],
  ] as const)('%s shows its chord', (_, at, direction, half) => {
    const lines = cutByPlane(cylinder, at, direction);
    const wide = wideAt(lines, 0.05);
    expect(wide?.[0]).toBeCloseTo(-half, 2);
    expect(wide?.[1]).toBeCloseTo(half, 2);
    const heights = lines.flat().map((q) => q[1]);
    expect(Math.max(...heights)).toBeCloseTo(3, 9);
  });
  it('counts from the given place', () => {
    const wide = wideAt(cutByPlane(cylinder, [1, 0, 3], [1, 0]), 0.05);
    expect(wide?.[0]).toBeCloseTo(-5, 2);
    expect(wide?.[1]).toBeCloseTo(3, 2);
  });
  it('is missed beside it', () => expect(cutByPlane(cylinder, [0, 9, 0], [1, 0])).toEqual([]));
});

it('nothing bounds a height over a plate', () => {
  const lines = cutByPlane(plate(5, 2), [0, 0, 2], [1, 0]);
  expect(lines).toHaveLength(1);
  expect(wideAt(lines, 2.4)).toBeNull();
});
