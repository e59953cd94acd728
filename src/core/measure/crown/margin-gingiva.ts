import { azimuthOf } from '../../linalg/sectors.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import type { Reading } from '../../result/reading.ts';
import { aroundStats } from '../around-stats.ts';
import { finishScatter } from '../finish-scatter.ts';
import { alongFinishLine, type CrownContext } from './context.ts';

/**
 * Height of the finish line over the gingival margin.
 * @formula z(finish line) − z(gingival margin curve) at the same azimuth
 * @units mm along the long axis, + above the margin
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line at z = 1 over a margin at z = 0.4 reads 0.6
 */
export function marginGingiva(c: CrownContext): Reading[] {
  return aroundStats({
    name: 'margin.gingiva',
    values: marginHeights(c),
    ...alongFinishLine(c),
    stats: ['min', 'p05', 'median', 'mean', 'p95', 'max'],
    each: { off: finishScatter(c), middle: 0.5, low: 1.1, high: 0.8 },
    common: c.anatomy.alignment.pointError,
    reason: 'no-finish-line',
  });
}

export function marginHeights(c: CrownContext): (number | null)[] {
  const curve = c.anatomy.master.landmarks.gingivalMargin;
  return c.finishZ.map((z, k) => {
    const g = heightAt(curve, c.azimuths[k]);
    return z === null || g === null ? null : z - g;
  });
}

/** Height at which a closed curve crosses the half plane at an azimuth (the outermost crossing when there are several). */
export function heightAt(curve: readonly Vec3[], azimuth: number): number | null {
  let found: { r: number; z: number } | null = null;
  for (let i = 0; i < curve.length; i++) {
    const a = curve[i];
    const b = curve[(i + 1) % curve.length];
    const turn = (v: Vec3): number => ((azimuthOf(v[0], v[1]) - azimuth + 540) % 360) - 180;
    const ta = turn(a);
    const tb = turn(b);
    if (ta === tb || ta * tb > 0 || Math.abs(ta - tb) > 180) continue;
    // The crossing with the half plane, along the straight piece between the two corners.
    const s = Math.sin((azimuth * Math.PI) / 180);
    const q = Math.cos((azimuth * Math.PI) / 180);
    const da = a[0] * q - a[1] * s;
    const db = b[0] * q - b[1] * s;
    const f = da === db ? 0 : da / (da - db);
    const r = (a[0] + f * (b[0] - a[0])) * s + (a[1] + f * (b[1] - a[1])) * q;
    if (!found || r > found.r) found = { r, z: a[2] + f * (b[2] - a[2]) };
  }
  return found?.z ?? null;
}
