import { describe, expect, it } from 'vitest';
import { along, revolve } from '../../../../test/helpers/shapes.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { makeSurface } from '../../spatial/surface.ts';
import { seeded } from '../../statistics/random.ts';
import { type Contour, PLACE } from './contour.ts';
import { notchesOf } from './notches.ts';

/** mm: a round wall, as of a crown seen along its axis. */
const R = 5;
const wall = makeSurface(
  revolve(
    along(
      [
        [R, 6],
        [R, -2],
      ],
      0.3,
    ),
  ),
);

type Place = readonly [number, number];

/** The wall from azimuth 30 to 150° with something taken away at azimuth 90°, as places 0.05 mm apart; azimuth grows from place to place. */
function contour(cut: readonly Place[], lip: number, { noise = 0, turn = 0 } = {}): Contour {
  const arc = (from: number, to: number): Place[] =>
    Array.from({ length: 2001 }, (_, i) => from + ((to - from) * i) / 2000).map((a) => [R * Math.sin(a), R * Math.cos(a)]);
  const half = Math.asin(lip / R);
  const line = [...arc(Math.PI / 6, Math.PI / 2 - half), ...cut, ...arc(Math.PI / 2 + half, (5 * Math.PI) / 6)];
  const random = seeded(3);
  const out: Place[] = [];
  let left = 0;
  for (let k = 1; k < line.length; k++) {
    const [dx, dy] = [line[k][0] - line[k - 1][0], line[k][1] - line[k - 1][1]];
    const l = Math.hypot(dx, dy);
    for (; left < l; left += PLACE) out.push([line[k - 1][0] + (left / l) * dx, line[k - 1][1] + (left / l) * dy]);
    left -= l;
  }
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  return out
    .map(([x, y]): Place => [x + noise * random.normal(), y + noise * random.normal()])
    .map(([x, y]): Place => [c * x + s * y, c * y - s * x]);
}

/** A groove by a round cutter of radius r that was moved straight in until its bottom lay `deep` under its lips: its section, lip to lip. */
function round(r: number, deep: number): { cut: Place[]; lip: number } {
  // Sunk past its middle it is as wide as the cutter; before that as wide as the chord.
  const lip = deep >= r ? r : Math.sqrt(r * r - (r - deep) ** 2);
  const surface = Math.sqrt(R * R - lip * lip);
  const middle = surface - deep + r;
  const half = deep >= r ? Math.PI / 2 : Math.asin(lip / r);
  const arc = Array.from({ length: 401 }, (_, i): Place => {
    const a = half - (2 * half * i) / 400;
    return [middle - r * Math.cos(a), r * Math.sin(a)];
  });
  return { cut: deep > r ? [[surface, lip], ...arc, [surface, -lip]] : arc, lip };
}

const box = (width: number, deep: number): { cut: Place[]; lip: number } => {
  const lip = width / 2;
  const surface = Math.sqrt(R * R - lip * lip);
  return {
    cut: [
      [surface, lip],
      [surface - deep, lip],
      [surface - deep, -lip],
      [surface, -lip],
    ],
    lip,
  };
};

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
