import { describe, expect, it } from 'vitest';
import { DEG, type Vec3 } from '../../linalg/vec.ts';
import { directionOf, leanTowards, truePath } from './insertion-truth.ts';

const N = 180;
const leans = (of: (azimuth: number) => number | null): (number | null)[] => Array.from({ length: N }, (_, k) => of((360 * k) / N));
/** Normals of walls that lean so, pointing out of the tooth. */
const normals = (of: (azimuth: number) => number): Vec3[] =>
  Array.from({ length: N }, (_, k): Vec3 => {
    const a = ((360 * k) / N) * DEG;
    const t = of((360 * k) / N) * DEG;
    return [Math.cos(t) * Math.sin(a), Math.cos(t) * Math.cos(a), Math.sin(t)];
  });

describe('the path along which walls taper alike', () => {
  it('is the axis where all walls lean alike', () => {
    const path = truePath(
      leans(() => 6),
      normals(() => 6),
    );
    expect(path.tilt).toBeCloseTo(0, 9);
  });
  it('leans away from the side that leans in more, by half of what opposite walls differ', () => {
    // Facial 8°, lingual 4°: seen along a path that leans 2° to lingual both taper by 6°.
    const of = (a: number): number => 6 + 2 * Math.cos(a * DEG);
    const path = truePath(leans(of), normals(of));
    expect(path.tilt).toBeCloseTo(2, 6);
    expect(path.azimuth).toBeCloseTo(180, 6);
    for (const a of [0, 90, 180, 270]) expect(of(a) + leanTowards(path, a)).toBeCloseTo(6, 2);
  });
  it('a wall that is missing on one side has no say, nor has the one across from it', () => {
    const of = (a: number): number | null => (a < 40 || a > 320 ? null : 6);
    expect(
      truePath(
        leans(of),
        normals(() => 6),
      ).tilt,
    ).toBeCloseTo(0, 9);
  });
  it('where a balanced path would be undercut it is the one with the least of it', () => {
    // All walls lean in by 5° but for one 60° wide that leans out by 8°: the balanced path runs under it.
    const of = (a: number): number => (Math.abs(a - 180) < 30 ? -8 : 5);
    const path = truePath(leans(of), normals(of));
    const least = (tilt: number, azimuth: number): number => {
      const d = directionOf({ tilt, azimuth });
      return Math.min(...normals(of).map((n) => n[0] * d[0] + n[1] * d[1] + n[2] * d[2]));
    };
    for (const tilt of [0, 2, 4, 8, 12]) expect(least(path.tilt, path.azimuth)).toBeGreaterThanOrEqual(least(tilt, 180) - 2e-3);
  });
});

it('a direction and its lean within a half plane undo each other', () => {
  for (const azimuth of [0, 37, 180, 300]) expect(leanTowards({ tilt: 4, azimuth }, azimuth)).toBeCloseTo(4, 9);
  expect(leanTowards({ tilt: 4, azimuth: 0 }, 90)).toBeCloseTo(0, 9);
  expect(leanTowards({ tilt: 4, azimuth: 0 }, 180)).toBeCloseTo(-4, 9);
});
