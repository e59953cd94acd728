import { toDegrees } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { aroundStats } from '../around-stats.ts';
import { wallScatter } from '../uncertainty/wall-scatter.ts';
import type { CrownContext } from './context.ts';

/**
 * Taper of the primary axial wall against the draw direction, and its lean to the long axis, by azimuth.
 * @formula angle, within the half plane at φ, between the line fitted to the primary wall and the draw direction (or the long axis)
 * @units degrees, + converging occlusally, − undercut
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example a frustum whose walls lean 6° reads 6 at every azimuth
 */
export function taperWall(c: CrownContext): Reading[] {
  // A wall line away from its neighbours' lines, or with scattered points, is less certain.
  const off = c.anatomy.profiles.map((p, k) => {
    const lean = c.lean[k];
    return p?.wall && lean !== null ? wallScatter(p.wall, lean) : null;
  });
  const common = toDegrees(c.anatomy.alignment.turnError);
  const stats = ['min', 'p05', 'median', 'mean', 'p95', 'max'] as const;
  const point = (k: number) => {
    const w = c.anatomy.profiles[k]?.wall;
    return w ? radialPoint(c.azimuths[k], w.line.x, w.line.y) : undefined;
  };
  const noise = noiseLeft(
    c.anatomy.profiles.map((p) => p?.wall?.lean ?? null),
    c.lean,
    c.half,
  );
  const shared = {
    noise,
    azimuths: c.azimuths,
    covered: c.anatomy.covered,
    stats,
    common,
    reason: 'no-wall' as const,
    point,
  };
  return [
    ...aroundStats({ ...shared, name: 'taper.wall', values: c.taper, each: { off, middle: 0.5, low: 1.05, high: 1.1 } }),
    ...aroundStats({ ...shared, name: 'wall.lean', values: c.lean, each: { off, middle: 0.4, low: 0.95, high: 1 } }),
  ];
}
