import { expect, it } from 'vitest';
import { makeMesh } from '../mesh/mesh.ts';
import { differenceFrom } from './difference.ts';

/** A square plate of two triangles at a height, its normal upward. */
const plate = (half: number, z: (x: number) => number) =>
  makeMesh(
    'tooth',
    Float64Array.from([-half, -half, z(-half), half, -half, z(half), half, half, z(half), -half, half, z(-half)]),
    Uint32Array.from([0, 1, 2, 0, 2, 3]),
  );

it('a plate that lies deeper is negative by how much deeper, a higher one positive', () => {
  const first = plate(10, () => 0);
  expect(
    differenceFrom(
      plate(2, () => -0.4),
      first,
    ),
  ).toEqual([-0.4, -0.4, -0.4, -0.4]);
  expect(
    differenceFrom(
      plate(2, () => 0.25),
      first,
    ),
  ).toEqual([0.25, 0.25, 0.25, 0.25]);
});

it('a tilted plate differs by its closed form, the distance to a plane', () => {
  // z = x / 2: the distance of (x, y, 0) is |x| / √5 on the flat plate under or over it.
  const d = differenceFrom(
    plate(2, () => 0),
    plate(20, (x) => x / 2),
  );
  expect(d[0]).toBeCloseTo(2 / Math.sqrt(5) / 1, 10);
  expect(d[1]).toBeCloseTo(-2 / Math.sqrt(5), 10);
});

it('nothing is said where the other ends or is not there', () => {
  expect(
    differenceFrom(
      plate(2, () => 0),
      plate(1, () => 0),
    ),
  ).toEqual([null, null, null, null]);
  expect(
    differenceFrom(
      plate(2, () => 9),
      plate(10, () => 0),
    ),
  ).toEqual([null, null, null, null]);
});
