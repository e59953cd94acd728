import { type Reading, reading, refusal } from '../../result/reading.ts';
import { present } from '../../segment/around.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { noiseLeft } from '../../statistics/noise-share.ts';
import { mean, median } from '../../statistics/quantile.ts';
import { aroundStats } from '../around-stats.ts';
import { type CrownContext, TOP_HALF } from './context.ts';

const offTop = (p: Profile | null, smooth: number | null): number | null => (p?.wall && smooth !== null ? p.wall.top.z - smooth : null);

/** Height of the wall along the draw direction at each azimuth. */
export function wallHeights(c: CrownContext): (number | null)[] {
  const d = c.draw?.direction ?? [0, 0, 1];
  return c.azimuths.map((a, k) => {
    const [r0, z0, r1, z1] = [c.finishR[k], c.finishZ[k], c.topR[k], c.topZ[k]];
    if (r0 === null || z0 === null || r1 === null || z1 === null) return null;
    const foot = radialPoint(a, r0, z0);
    const top = radialPoint(a, r1, z1);
    return (top[0] - foot[0]) * d[0] + (top[1] - foot[1]) * d[1] + (top[2] - foot[2]) * d[2];
  });
}

/**
 * Height of the axial wall from the finish line to the occlusoaxial edge, along the draw direction; and its mean against
 * the width of the base.
 * @formula (edge − finish line)·draw by azimuth; ratio = mean height ÷ mean distance of opposite finish-line points
 * @units mm; ratio
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example a frustum from z = 1 to z = 5 on a base 10 wide reads 4 and 0.4
 */
export function wallHeight(c: CrownContext): Reading[] {
  const values = wallHeights(c);
  const out = aroundStats({
    name: 'wall.height',
    values,
    azimuths: c.azimuths,
    covered: c.anatomy.covered,
    stats: ['min', 'p05', 'median', 'mean', 'p95', 'max'],
    // A rounded edge is found here at one place of its rounding and there at another.
    each: { off: c.anatomy.profiles.map((p, k) => offTop(p, c.topZ[k])), middle: 3, low: 4, high: 3.8 },
    // How the edge's place is defined where it is rounded, or turns slowly, is the same all round.
    common: Math.hypot(c.anatomy.alignment.pointError, median([0, ...c.anatomy.profiles.flatMap((p) => p?.wall?.top.u ?? [])])),
    noise: Math.hypot(
      noiseLeft(
        c.anatomy.profiles.map((p) => p?.wall?.top.z ?? null),
        c.topZ,
        TOP_HALF,
      ),
      noiseLeft(
        c.anatomy.profiles.map((p) => p?.finish.z ?? null),
        c.finishZ,
        c.half,
      ),
    ),
    reason: 'no-wall',
    point: (k) => {
      const r = c.topR[k];
      const z = c.topZ[k];
      return r === null || z === null ? undefined : radialPoint(c.azimuths[k], r, z);
    },
  });
  const heights = present(values);
  const n = c.azimuths.length;
  const widths = c.finishR.slice(0, n / 2).flatMap((r, k) => {
    const q = c.finishR[k + n / 2];
    return r === null || q === null ? [] : [r + q];
  });
  if (heights.length < n / 2 || widths.length < n / 4)
    return [...out, ...refusal('wall.height.ratio', null, ['value'], c.anatomy.covered.every(Boolean) ? 'no-wall' : 'not-covered')];
  const ratio = mean(heights) / mean(widths);
  const sure = out.find((r) => r.zone === null && r.stat === 'mean')?.U;
  if (sure === null || sure === undefined) return [...out, ...refusal('wall.height.ratio', null, ['value'], 'no-wall')];
  out.push(reading({ name: 'wall.height.ratio', value: ratio, U: sure / mean(widths), samples: heights.length }));
  return out;
}
