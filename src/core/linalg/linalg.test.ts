import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { closedCentroid, distanceToLine, trimmed } from './curve.ts';
import { applyPoint, determinant3, fromRotation, fromTranslation, invertRigid, multiply } from './rigid.ts';
import { eigenSymmetric3, solveSymmetric } from './solve.ts';
import { angleBetween, unit, type Vec3, wrapDegrees } from './vec.ts';

const number = fc.double({ min: -50, max: 50, noNaN: true });
const axis = fc.tuple(number, number, number).filter((v) => Math.hypot(...v) > 0.1);

describe('rigid motions', () => {
  it('undo themselves and keep lengths', () => {
    fc.assert(
      fc.property(axis, number, fc.tuple(number, number, number), fc.tuple(number, number, number), (a, angle, t, p) => {
        const m = multiply(fromTranslation(t), fromRotation(a, angle));
        const back = applyPoint(invertRigid(m), applyPoint(m, p));
        for (let k = 0; k < 3; k++) expect(back[k]).toBeCloseTo(p[k], 8);
        expect(determinant3(m)).toBeCloseTo(1, 10);
      }),
      { seed: 1 },
    );
  });
  it('a quarter turn about z takes x to y', () =>
    expect(applyPoint(fromRotation([0, 0, 2], Math.PI / 2), [1, 0, 0]).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([0, 1, 0]));
});

describe('solving', () => {
  it('a known system', () => {
    const x = solveSymmetric([4, 1, 1, 3], [1, 2], 2) as number[];
    expect(x[0]).toBeCloseTo(1 / 11, 12);
    expect(x[1]).toBeCloseTo(7 / 11, 12);
  });
  it('an undetermined one is refused', () => expect(solveSymmetric([1, 1, 1, 1], [1, 1], 2)).toBeNull());
  it('eigenvalues of a rotated diagonal', () => {
    const { values, vectors } = eigenSymmetric3([2, 1, 0, 1, 2, 0, 0, 0, 5]);
    expect(values.map((v) => Math.round(v * 1e9) / 1e9)).toEqual([1, 3, 5]);
    expect(Math.abs(vectors[2][2])).toBeCloseTo(1, 12);
  });
});

it('a zero vector has no direction', () => expect(() => unit([0, 0, 0])).toThrow(RangeError));
it('angles are exact near 0 and 180', () => {
  expect(angleBetween([1, 0, 0], [1, 1e-9, 0])).toBeGreaterThan(0);
  expect(angleBetween([1, 0, 0], [-1, 0, 0])).toBe(180);
});
it('azimuth differences fold', () => expect([wrapDegrees(350), wrapDegrees(-190), wrapDegrees(180)]).toEqual([-10, 170, -180]));

describe('curves', () => {
  const line: Vec3[] = [
    [0, 0, 0],
    [4, 0, 0],
    [10, 0, 0],
  ];
  it('lose a tenth at each end', () =>
    expect(trimmed(line, 0.1)).toEqual([
      [1, 0, 0],
      [4, 0, 0],
      [9, 0, 0],
    ]));
  it('have distances to segments, not to corners', () => expect(distanceToLine(line, 7, 2)).toBe(2));
  it('have a centroid weighted by length, independent of the corners', () =>
    expect(
      closedCentroid([
        [0, 0, 0],
        [1, 0, 0],
        [2, 0, 0],
        [2, 2, 0],
        [0, 2, 0],
      ]),
    ).toEqual([1, 1, 0]));
});
