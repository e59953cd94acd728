import { type Profile, readProfile } from '../../src/core/segment/crown/profile.ts';
import type { Wall } from '../../src/core/segment/crown/wall.ts';
import type { Chain } from '../../src/core/segment/cut.ts';

/** mm of depth from which a place counts as cut. */
export const TAU = 0.06;

/** A polyline in (r, z) walked in small steps. */
export function walk(corners: readonly (readonly [number, number])[], step = 0.05): [number, number][] {
  const out: [number, number][] = [[corners[0][0], corners[0][1]]];
  for (let i = 1; i < corners.length; i++) {
    const [a, b] = [corners[i - 1], corners[i]];
    const n = Math.max(1, Math.round(Math.hypot(b[0] - a[0], b[1] - a[1]) / step));
    for (let k = 1; k <= n; k++) out.push([a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n]);
  }
  return out;
}

/** Chain with its depth under an uncut cylinder of radius 5 and height 7. */
export const chain = (points: readonly (readonly [number, number])[]): Chain => ({
  r: Float64Array.from(points, (p) => p[0]),
  z: Float64Array.from(points, (p) => p[1]),
  value: Float64Array.from(points, ([r, z]) => Math.min(5 - r, 7 - z)),
});

/** What is read of a half plane that these polylines cross. */
export function readHalfPlane(points: readonly (readonly [number, number])[][], planes = true, azimuth = 0): Profile {
  const p = readProfile(azimuth, points.map(chain), TAU, 0.01, planes);
  if (!p) throw new Error('a profile was expected');
  return p;
}

export function wallOf(p: Profile): Wall {
  if (!p.wall) throw new Error('a wall was expected');
  return p.wall;
}
