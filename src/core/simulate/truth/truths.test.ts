import { describe, expect, it } from 'vitest';
import { type Loft, wallPoint } from '../cavity/loft.ts';
import { CLEAN_CLASS_I, cleanClassII } from '../cavity/recipe.ts';
import { CLEAN_CROWN } from '../crown/recipe.ts';
import { PolarCurve } from '../polar-curve.ts';
import type { Quad } from './cut-surface.ts';
import { roughTruth } from './rough-truth.ts';
import { sightTruth } from './sight-truth.ts';

const RAD = Math.PI / 180;

/** A surface of revolution as small places, its radius by height and azimuth (degrees). */
const turned = (radius: (z: number, azimuth: number) => number): Quad[] =>
  Array.from({ length: 720 }, (_, k) => k / 2).flatMap((a) =>
    Array.from({ length: 40 }, (_, i): Quad => {
      const z = 0.1 * (i + 1);
      const r = radius(z, a);
      return { p: [r * Math.sin(a * RAD), r * Math.cos(a * RAD), z], weight: 1, up: 0, share: z / 4, overFoot: true };
    }),
  );
const level = new PolarCurve(
  Array.from({ length: 360 }, (_, a): [number, number, number] => [4 * Math.sin(a * RAD), 4 * Math.cos(a * RAD), 0]),
);

describe('the share of a finish line that is seen', () => {
  const seen = (quads: readonly Quad[], path: [number, number, number] = [0, 0, 1]): number =>
    sightTruth([0, 0, 0], level, quads, path).value;
  it('is all of it over a cone that narrows', () => expect(seen(turned((z) => 3.8 - 0.1 * z))).toBe(1));
  it('is none of it under a cone that widens past it', () => expect(seen(turned((z) => 3.8 + 0.2 * z))).toBe(0));
  it('is what no wall stands over: a quarter of the way round it does', () =>
    expect(seen(turned((z, a) => (a < 90 ? 3.8 + 0.2 * z : 3.8 - 0.1 * z)))).toBeCloseTo(0.75, 2));
  it('depends on the way one looks: an upright wall hides the half behind it', () => {
    // Looked at from a direction that leans to mesial, the top of the wall is laid towards distal by 4 · tan 10° = 0.7 mm.
    const tilted = seen(
      turned(() => 3.9),
      [Math.sin(10 * RAD), 0, Math.cos(10 * RAD)],
    );
    expect(tilted).toBeGreaterThan(0.45);
    expect(tilted).toBeLessThan(0.6);
  });
});

describe('waves that a cutter leaves on a wall', () => {
  const loft: Loft = {
    plan: [{ x: 1, y: 0, nx: 1, ny: 0, taper: 0 }],
    floor: () => 0,
    radius: 0.2,
    top: 4,
    chatter: { height: 0.05, length: 0.5 },
  };
  it('swing about the smooth wall and leave its foot alone', () => {
    const smooth = { ...loft, chatter: undefined };
    const off = (h: number): number => wallPoint(loft, 0, h)[0] - wallPoint(smooth as unknown as Loft, 0, h)[0];
    expect(off(0.1)).toBe(0);
    expect(off(0.2 + 0.125)).toBeCloseTo(0.05, 12);
    expect(off(0.2 + 0.375)).toBeCloseTo(-0.05, 12);
    expect(off(0.2 + 0.5)).toBeCloseTo(0, 12);
  });
  it('are as rough as a sine of their height, the scan’s noise on top', () => {
    const cavity = { ...cleanClassII('mesial'), chatter: { height: 0.04, length: 0.5 } };
    expect(roughTruth(cavity, 0).map((q) => [q.zone, q.value])).toEqual([
      [null, 0.04 / Math.SQRT2],
      ['box mesial', 0.04 / Math.SQRT2],
    ]);
    expect(roughTruth(cavity, 0.03)[0].value).toBeCloseTo(Math.sqrt(0.0008 + 0.0009), 12);
  });
  it('are no truth of walls that were cut smooth, nor of a crown', () => {
    expect(roughTruth(CLEAN_CLASS_I, 0.02)).toEqual([]);
    expect(roughTruth(CLEAN_CROWN, 0.02)).toEqual([]);
  });
});
