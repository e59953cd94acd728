import { describe, expect, it } from 'vitest';
import { DEG } from '../linalg/vec.ts';
import { STEP } from '../segment/crown/pieces.ts';
import { seeded } from '../statistics/random.ts';
import { bevelsFound } from './bevel-found.ts';
import type { CrownContext } from './crown/context.ts';

/** A leg of a half plane: degrees from upright, and mm. */
type Leg = readonly [lean: number, length: number];

/** Half planes of one cusp at azimuth 180°, six degrees apart, each going up its legs from r = 5, z = 0; what it lost is its number of the leg. */
function half(legsOf: (azimuth: number) => readonly Leg[], noise = 0): CrownContext {
  const azimuths = Array.from({ length: 60 }, (_, k) => 6 * k);
  const random = seeded(17);
  const profiles = azimuths.map((azimuth) => {
    const r: number[] = [];
    const z: number[] = [];
    const depth: number[] = [];
    const legs = legsOf(azimuth);
    let [x, y, left] = [5, 0, 0];
    legs.forEach(([lean, length], leg) => {
      const [across, up] = [-Math.sin(lean * DEG), Math.cos(lean * DEG)];
      for (; left < length; left += STEP) {
        r.push(x + left * across + noise * random.normal());
        z.push(y + left * up + noise * random.normal());
        depth.push(leg);
      }
      [x, y] = [x + length * across, y + length * up];
      left -= length;
    });
    return { r, z, depth, wall: { lean: legs[0][0], from: 4, to: Math.floor(legs[0][1] / STEP) - 4 } };
  });
  const cusps = [{ name: 'P', role: 'functional', at: [0, -3, 6] }];
  // Of a crown's context bevels look at no more than this.
  return { azimuths, anatomy: { profiles, master: { landmarks: { cusps } } } } as unknown as CrownContext;
}

const bevelled = (angle: number, width: number): readonly Leg[] => [
  [6, 3.5],
  [angle, width],
  [82, 2.5],
];

describe('a functional cusp’s bevel between wall and occlusal surface', () => {
  it.each([
    [45, 1],
    [35, 1.4],
    [55, 0.8],
    [45, 0.6],
  ])('of %s° and %s mm is found as it is', (angle, width) => {
    const [bevel, ...others] = bevelsFound(
      half(() => bevelled(angle, width)),
      'functional',
    );
    expect(others).toEqual([]);
    expect(Math.abs(bevel.angle - angle)).toBeLessThan(1);
    expect(Math.abs(bevel.width - width)).toBeLessThan(0.06);
    // It is the second leg, and what it lost is that leg's.
    expect(bevel.depth).toBe(1);
    expect(bevel.at.azimuth).toBe(180);
    expect(bevel.planes).toBe(bevel.asked);
  });
  it('its edge to the occlusal surface is where that begins', () => {
    const [bevel] = bevelsFound(
      half(() => bevelled(45, 1)),
      'functional',
    );
    const top = 3.5 * Math.cos(6 * DEG) + Math.cos(45 * DEG);
    for (const p of bevel.edge) expect(Math.abs(p[2] - top)).toBeLessThan(2 * STEP);
  });
  it('noise of 0.02 mm moves it little, and its scatter says so', () => {
    const [bevel] = bevelsFound(
      half(() => bevelled(45, 1), 0.02),
      'functional',
    );
    expect(Math.abs(bevel.angle - 45)).toBeLessThan(3);
    expect(Math.abs(bevel.width - 1)).toBeLessThan(0.15);
    expect(bevel.scatter.angle).toBeGreaterThan(0.1);
  });
  it('is not taken from a half plane whose wall was said to end at its foot, where the margin slopes alike', () => {
    const c = half((azimuth) =>
      azimuth === 174
        ? [
            [6, 0.2],
            [45, 0.9],
            [6, 2.5],
            [45, 1],
            [82, 2.5],
          ]
        : bevelled(45, 1),
    );
    const [bevel] = bevelsFound(c, 'functional');
    expect(Math.abs(bevel.angle - 45)).toBeLessThan(1);
    expect(bevel.planes).toBe(bevel.asked - 1);
    for (const [, , z] of bevel.surface) expect(z).toBeGreaterThan(3);
  });
  it('where the wall turns into the occlusal surface there is none, neither at once nor by a rounded edge', () => {
    expect(
      bevelsFound(
        half(() => [
          [6, 4],
          [82, 2.5],
        ]),
        'functional',
      ),
    ).toEqual([]);
    const rounded: Leg[] = Array.from({ length: 15 }, (_, i) => [8 + 5 * i, 0.06]);
    expect(
      bevelsFound(
        half(() => [[6, 3.5], ...rounded, [82, 2.5]]),
        'functional',
      ),
    ).toEqual([]);
  });
  it('is none where it is narrower than an edge’s rounding', () => {
    expect(
      bevelsFound(
        half(() => bevelled(45, 0.25)),
        'functional',
      ),
    ).toEqual([]);
  });
  it('is looked for at cusps of the role that is asked for', () => {
    expect(
      bevelsFound(
        half(() => bevelled(45, 1)),
        'non-functional',
      ),
    ).toEqual([]);
  });
  it('on half of the half planes only it is still the middle’s', () => {
    const seen = bevelsFound(
      half((a) =>
        Math.abs(a - 180) <= 12
          ? bevelled(45, 1)
          : [
              [6, 4],
              [82, 2.5],
            ],
      ),
      'functional',
    );
    expect(seen).toHaveLength(1);
    expect(Math.abs(seen[0].angle - 45)).toBeLessThan(2);
  });
});
