import { describe, expect, it } from 'vitest';
import { box, contour, type Place, R, round, wall } from '../../../../test/helpers/notched-wall.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { notchesOf } from './notches.ts';

describe('notches of a wall seen along the axis', () => {
  it.each([
    [0.5, 0.7],
    [0.5, 0.9],
    [0.4, 0.6],
    [0.6, 0.45],
  ])('a round groove of radius %s, %s mm deep, is as wide as between its lips and as deep as under them', (r, deep) => {
    const { cut, lip } = round(r, deep);
    const found = notchesOf(contour(cut, lip), 2, wall, 0.01);
    expect(found).toHaveLength(1);
    expect(Math.abs(found[0].width - 2 * lip)).toBeLessThan(0.04);
    expect(Math.abs(found[0].depth - deep)).toBeLessThan(0.04);
    expect(found[0].azimuth).toBeCloseTo(90, 0);
    // Out of the groove is out of the wall, along +x.
    expect(found[0].out[0]).toBeGreaterThan(0.999);
  });
  it('with noise of 0.02 mm a groove keeps its width within 0.08 mm', () => {
    const { cut, lip } = round(0.5, 0.8);
    const [found] = notchesOf(contour(cut, lip, { noise: 0.02 }), 2, wall, 0.02);
    expect(Math.abs(found.width - 1)).toBeLessThan(0.08);
    expect(Math.abs(found.depth - 0.8)).toBeLessThan(0.08);
  });
  it('turned about the axis it is the same groove elsewhere', () => {
    const { cut, lip } = round(0.5, 0.8);
    const [there] = notchesOf(contour(cut, lip), 2, wall, 0.01);
    const [turned] = notchesOf(contour(cut, lip, { turn: Math.PI / 3 }), 2, wall, 0.01);
    expect(turned.azimuth - there.azimuth).toBeCloseTo(60, 1);
    expect(turned.width).toBeCloseTo(there.width, 3);
    expect(azimuthOf(turned.bottom[0], turned.bottom[1])).toBeCloseTo(turned.azimuth, 6);
  });
  it('a box is as wide as it is and as deep as its bottom lies', () => {
    const { cut, lip } = box(2.4, 1);
    const found = notchesOf(contour(cut, lip), 2, wall, 0.01);
    expect(found).toHaveLength(1);
    expect(Math.abs(found[0].width - 2.4)).toBeLessThan(0.05);
    expect(Math.abs(found[0].depth - 1)).toBeLessThan(0.05);
  });
  it('an uncut wall has none, nor has one with a shallow wave', () => {
    const bare = round(0.5, 0.7).lip;
    const smooth = Array.from({ length: 101 }, (_, i): Place => {
      const a = Math.PI / 2 - Math.asin(bare / R) + (2 * Math.asin(bare / R) * i) / 100;
      return [R * Math.sin(a), R * Math.cos(a)];
    });
    expect(notchesOf(contour(smooth, bare), 2, wall, 0.01)).toEqual([]);
    // 0.12 mm deep over 1.2 mm: under the depth at which a groove begins.
    const { cut, lip } = round(1.56, 0.12);
    expect(notchesOf(contour(cut, lip), 2, wall, 0.01)).toEqual([]);
  });
});
