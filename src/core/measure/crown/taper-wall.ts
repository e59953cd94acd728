import { toDegrees } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import { present } from '../../segment/around.ts';
import { radialPoint } from '../../segment/crown.ts';
import { STEP } from '../../segment/profile.ts';
import { median } from '../../statistics/quantile.ts';
import { aroundStats } from '../around-stats.ts';
import type { CrownContext } from './context.ts';

/** mm: what the rounding left at a wall's ends may shift them. */
const ROUNDED = 0.012;

/**
 * Taper of the primary axial wall against the draw direction, and its lean to the long axis, by azimuth.
 * @formula angle, within the half plane at φ, between the line fitted to the primary wall and the draw direction (or the long axis)
 * @units degrees, + converging occlusally, − undercut
 * @frame tooth
 * @fails no-wall
 * @source measures.md 5, `taper.wall` and `wall.lean`
 * @example a frustum whose walls lean 6° reads 6 at every azimuth
 */
export function taperWall(c: CrownContext): Reading[] {
  const u = present(c.anatomy.profiles.map((p) => p?.wall?.u ?? null));
  const lengths = c.anatomy.profiles.flatMap((p) => (p?.wall ? [(p.wall.to - p.wall.from) * STEP] : []));
  // Rounded ends lean on a low wall.
  const rounded = lengths.length ? toDegrees(ROUNDED / median(lengths)) : 0;
  const each = u.length ? Math.hypot(Math.sqrt(u.reduce((s, v) => s + v * v, 0) / u.length) / 1.6, rounded) : 0;
  const common = toDegrees(c.anatomy.alignment.turnError);
  const stats = ['min', 'p05', 'median', 'mean', 'p95', 'max'] as const;
  const point = (k: number) => {
    const w = c.anatomy.profiles[k]?.wall;
    return w ? radialPoint(c.azimuths[k], w.line.x, w.line.y) : undefined;
  };
  const shared = {
    unit: 'deg' as const,
    azimuths: c.azimuths,
    covered: c.anatomy.covered,
    stats,
    each,
    common,
    reason: 'no-wall' as const,
    point,
  };
  return [
    ...aroundStats({ ...shared, name: 'taper.wall', values: c.taper }),
    ...aroundStats({ ...shared, name: 'wall.lean', values: c.lean }),
  ];
}
