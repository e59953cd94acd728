import { describe, expect, it } from 'vitest';
import { seeded } from '../../statistics/random.ts';
import { cornerOfRound, cornerOfSide, heightOver, lineThrough, type Place, roundCutter, wallAcross, widthAt } from './notch-shape.ts';

/** Places 0.05 mm apart along the section that a round cutter leaves under a level: half circle below its middle, upright above. */
function section(radius: number, [a, b]: Place, level: number): Place[] {
  const out: Place[] = [];
  for (let v = level; v > b; v -= 0.05) out.push([a - radius, v]);
  const start = Math.acos(Math.min(1, Math.max(0, (b - level) / radius)));
  const from = level < b ? start - Math.PI / 2 : 0;
  for (let turn = Math.max(0, from); turn <= Math.PI - Math.max(0, from); turn += 0.05 / radius)
    out.push([a - radius * Math.cos(turn), b - radius * Math.sin(turn)]);
  for (let v = b; v < level; v += 0.05) out.push([a + radius, v]);
  return out;
}

describe('the cutter that left a groove', () => {
  it.each([
    [0.5, [0.1, 0.3], 0.5],
    [0.45, [-0.2, 0.6], 0.6],
    [0.6, [0, 0.4], 0.4],
    [0.4, [0.05, 0.2], 0.9],
  ] as const)('of radius %s is found again from its section', (radius, middle, level) => {
    const found = roundCutter(section(radius, middle, level), 0);
    expect(found?.radius).toBeCloseTo(radius, 3);
    expect(found?.middle[0]).toBeCloseTo(middle[0], 3);
    expect(found?.middle[1]).toBeCloseTo(middle[1], 3);
  });
  it.each([0.3, -0.45])('is found in a frame that stands askew by %s rad', (askew) => {
    const [c, s] = [Math.cos(askew), Math.sin(askew)];
    // Sides of 0.4 mm over a middle at the origin, seen from a frame turned the other way.
    const seen = section(0.5, [0, 0], 0.4).map(([u, v]): Place => [u * c - v * s, u * s + v * c]);
    const found = roundCutter(seen, 0);
    expect(found?.radius).toBeCloseTo(0.5, 2);
    expect(Math.abs((found?.turn ?? 0) - askew)).toBeLessThan(0.03);
    // The wall at the sides' ends, in that frame: both corners lie a whole cutter apart.
    const wall = (u: number): number => 0.4 / c + (u * s) / c;
    const [p, q] = ([1, -1] as const).map((hand) => cornerOfRound(found as NonNullable<typeof found>, hand, wall));
    expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeCloseTo(1, 1);
  });
  it('is within a hundredth where places scatter by 20 µm', () => {
    const random = seeded(3);
    const noisy = section(0.5, [0, 0.4], 0.6).map(([u, v]): Place => [u + 0.02 * random.normal(), v + 0.02 * random.normal()]);
    expect(Math.abs((roundCutter(noisy, 0.02)?.radius ?? 0) - 0.5)).toBeLessThan(0.012);
  });
  it('is none where the bottom is level, as a box has it', () => {
    const box = Array.from({ length: 41 }, (_, i): Place => [0.045 * (i - 20), Math.abs(i - 20) > 18 ? 0.3 : 0]);
    expect(roundCutter(box, 0.02)).toBeNull();
  });
  it('is none of a handful of places', () => {
    expect(roundCutter(section(0.5, [0, 0], 0).slice(0, 5), 0.02)).toBeNull();
  });
});

describe('the corner that a cutter leaves', () => {
  const cutter = { middle: [0, 0], radius: 0.5, turn: 0 } as const;
  it.each([
    ['over the middle, at the cutter’s own width', 0.3, 0.5],
    ['through the middle, at its width as well', 0, 0.5],
    ['under the middle, at the chord', -0.3, 0.4],
  ] as const)('in a level wall %s', (_, level, half) => {
    for (const hand of [1, -1] as const) {
      const [u, v] = cornerOfRound(cutter, hand, () => level);
      expect(u).toBeCloseTo(hand * half, 6);
      expect(v).toBe(level);
    }
  });
  it('in a wall that falls to both sides lies on wall and cutter', () => {
    const wall = (u: number): number => -0.1 - u * u;
    const [u, v] = cornerOfRound(cutter, 1, wall);
    expect(v).toBeCloseTo(wall(u), 6);
    expect(Math.hypot(u, v)).toBeCloseTo(0.5, 3);
  });
  it('of a box is where its side meets the wall, though the scan blunted the edge', () => {
    // A side at u = 1 + 0.1 v, seen from 0.12 mm under the wall on; nearer the edge is cut off at 45°.
    const side = Array.from({ length: 16 }, (_, i): Place => [1 + 0.1 * (-0.12 - 0.05 * i), -0.12 - 0.05 * i]);
    const blunt: Place[] = [
      [1.04, -0.08],
      [1.08, -0.04],
      [1.12, 0],
    ];
    const [u, v] = cornerOfSide([...blunt, ...side], 1, () => 0, [1.12, 0]);
    expect(u).toBeCloseTo(1, 2);
    expect(v).toBe(0);
  });
  it('of a box is where it was seen where no side is', () => {
    expect(cornerOfSide([[0.2, -0.2]], 1, () => 0, [1.1, -0.03])).toEqual([1.1, -0.03]);
  });
});

describe('the wall beside a notch', () => {
  const beside = [-1.2, -1.1, -1, -0.9, -0.8, 0.8, 0.9, 1, 1.1, 1.2];
  it('is one curve over both sides', () => {
    const wall = (u: number): number => 0.2 + 0.1 * u - 0.12 * u * u;
    const found = wallAcross(
      beside.map((u): Place => [u, wall(u)]),
      0.03,
    );
    for (const u of [-0.5, 0, 0.5]) expect(found?.(u)).toBeCloseTo(wall(u), 6);
  });
  it('is none over a step', () => {
    expect(
      wallAcross(
        beside.map((u, i): Place => [u, i % 5 < 2 ? 0 : 0.3]),
        0.03,
      ),
    ).toBeNull();
  });
  it('is a line with what its places lie off it', () => {
    const line = lineThrough([
      [0, 1],
      [1, 1.5],
      [2, 2],
    ]);
    expect(line.slope).toBeCloseTo(0.5, 9);
    expect(line.at(4)).toBeCloseTo(3, 9);
    expect(line.off).toBeCloseTo(0, 9);
    // ± 0.3 about a level line, the middle one by twice that: they lie 0.2, −0.4 and 0.2 off it.
    expect(
      lineThrough([
        [0, 0.2],
        [1, -0.4],
        [2, 0.2],
      ]).off,
    ).toBeCloseTo(Math.sqrt((0.04 + 0.16 + 0.04) / 3), 9);
  });
});

describe('a cutter at a height over its middle', () => {
  const cutter = { middle: [1, 2], radius: 0.5, turn: 0 } as const;
  it.each([
    [0.4, 1],
    [0, 1],
    [-0.3, 0.8],
    [-0.5, 0],
    [-0.7, 0],
  ])('of %s mm is %s mm wide: its whole width from the middle on, a chord under it', (up, width) =>
    expect(widthAt(cutter, up)).toBeCloseTo(width, 9),
  );
  it('heights count along its sides, whichever way they lean', () => {
    expect(heightOver(cutter, [9, 2.3])).toBeCloseTo(0.3, 9);
    // Turned by a quarter its sides run to where u is less.
    expect(heightOver({ ...cutter, turn: Math.PI / 2 }, [0.6, 9])).toBeCloseTo(0.4, 9);
  });
});
