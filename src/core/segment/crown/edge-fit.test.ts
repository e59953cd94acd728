import { describe, expect, it } from 'vitest';
import { within } from '../../../../test/helpers/within.ts';
import { refineEdge } from './edge-fit.ts';
import { STEP } from './pieces.ts';

/** A profile whose points stand `STEP` apart from s = 0 inward; the edge lies where the depth has run out. */
const profile = (r: (s: number) => number, z: (s: number) => number, w: (s: number) => number, n = 20) => {
  const s = Array.from({ length: n }, (_, i) => i * STEP);
  return { r: s.map(r), z: s.map(z), w: s.map(w) };
};
const uncut = (level: number) => ({ r: Array(12).fill(5), z: Array(12).fill(0), w: Array(12).fill(level) });

describe('the edge of a floor', () => {
  // Level, running in from r = 5; its depth grows as it goes.
  const level = (from: number, w: (s: number) => number) =>
    refineEdge(
      profile(
        (s) => 5 - from - s,
        () => 1,
        (s) => w(s + from),
      ),
      uncut(0),
      12,
    );
  it.each([0.05, 0.1, 0.2])('lies where a straight one has no depth, %s mm before its first point', (from) => {
    const e = level(from, (s) => s * Math.tan(Math.PI / 3));
    within(e.finish.r, 5, 1e-6);
    within(e.finish.z, 1, 1e-9);
    within(e.rise, 0, 1e-6);
    within(e.floor.dr, -1, 1e-9);
  });
  it('of a chamfer lies where its curve has no depth, not where a straight line through it would', () => {
    // Depth of an arc that leaves the side square to it: it grows more slowly further in.
    const curved = (s: number) => 1.2 * s - 0.9 * s * s;
    within(level(0.1, curved).finish.r, 5, 0.004);
  });
  it('stands where the depth comes down to the uncut surface beside it, and to no more than 0.02 mm of that', () => {
    const at = (outside: number) =>
      refineEdge(
        profile(
          (s) => 4.9 - s,
          () => 1,
          (s) => 0.1 + s,
        ),
        uncut(outside),
        12,
      ).finish.r;
    within(at(0.015), 5 - 0.015, 1e-6);
    within(at(0.3), 5 - 0.02, 1e-6);
    within(at(-0.3), 5 + 0.02, 1e-6);
  });
  it('is the less sure the more slowly the depth grows', () => {
    const [steep, shallow] = [2, 0.1].map((slope) => level(0.05, (s) => slope * s).finish.u);
    within(steep, 0.004, 1e-9);
    within(shallow, 0.08, 1e-9);
    expect(level(0.05, () => 0.2).finish.u).toBeLessThanOrEqual(0.2);
  });
  it('that rises inward says by how much', () => {
    const rise = Math.PI / 9;
    const e = refineEdge(
      profile(
        (s) => 4.9 - s * Math.cos(rise),
        (s) => 1 + s * Math.sin(rise),
        (s) => 0.1 + s,
      ),
      uncut(0),
      12,
    );
    within(e.rise, rise, 1e-6);
    within(e.finish.z, 1 - 0.1 * Math.sin(rise), 1e-6);
  });
});
