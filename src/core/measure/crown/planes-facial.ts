import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import type { Piece } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { isScrap } from '../../segment/target.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { median, weightedQuantiles } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownContext } from './context.ts';

/** Share of half planes that must agree on the number of planes. */
const AGREE = 0.7;
/** degrees either side of facial, and mm that a plane is long at the least. */
const HALF_ARC = 16;
const PLANE_MM = 0.8;

export interface FacialPlanes {
  readonly count: number;
  /** Between the cervical and the last plane, degrees; null with a single plane. */
  readonly bend: number | null;
}

/** Planes of one facial profile: pieces within 45° of upright and at least 0.8 mm long, joined while they bend less than 8°. */
export function planesOf(p: Profile): FacialPlanes | null {
  if (!p.wall) return null;
  const upright = p.pieces.filter((q) => q.from >= Math.max(0, (p.wall as { from: number }).from - 4) && Math.abs(q.angle - 90) <= 50);
  const planes: { angle: number; length: number }[] = [];
  for (const q of joined(upright)) if (q.length >= PLANE_MM) planes.push(q);
  if (planes.length === 0) return null;
  return { count: planes.length, bend: planes.length > 1 ? planes[0].angle - planes[planes.length - 1].angle : null };
}

function joined(pieces: readonly Piece[]): { angle: number; length: number }[] {
  const out: { angle: number; length: number }[] = [];
  for (const q of pieces) {
    const last = out[out.length - 1];
    if (last && Math.abs(last.angle - q.angle) < THRESHOLDS.wallBend_deg) {
      last.angle = (last.angle * last.length + q.angle * q.length) / (last.length + q.length);
      last.length += q.length;
    } else out.push({ angle: q.angle, length: q.length });
  }
  return out;
}

/**
 * Facial reduction in planes: how many, the angle between the cervical and the occlusal or incisal one, and the thinnest
 * place of the outer third, where a single plane starves.
 * @formula medians over the half planes within 16° of facial; 5 % of the depth in the facial outer third
 * @units count; degrees; mm
 * @frame tooth
 * @fails no-wall, not-seen
 * @source own definition, docs/definitions.md
 * @example a frustum reads one plane
 */
export function planesFacial(c: CrownContext): Reading[] {
  const name = 'planes.facial';
  const n = c.azimuths.length;
  const near = c.azimuths.flatMap((a, k) => (a <= HALF_ARC || a >= 360 - HALF_ARC ? [k] : []));
  const found = near.flatMap((k) => {
    const p = c.anatomy.profiles[k];
    const planes = p ? planesOf(p) : null;
    return planes ? [{ k, ...planes }] : [];
  });
  const coverage = found.length / near.length;
  if (coverage < THRESHOLDS.coverageLeast)
    return [
      ...refusal(name, null, ['count'], 'no-wall', coverage),
      ...refusal(`${name}.angle`, null, ['value'], 'no-wall', coverage),
      ...refusal(`${name}.depth`, null, ['min'], 'no-wall', coverage),
    ];
  const count = Math.round(median(found.map((f) => f.count)));
  const isSure = found.filter((f) => f.count === count).length >= AGREE * found.length;
  const top = c.topR[0];
  const topZ = c.topZ[0];
  const at = { azimuth: 0, ...(top !== null && topZ !== null ? { point: radialPoint(c.azimuths[0], top, topZ) } : {}) };
  const common = { at, coverage, samples: found.length };
  const out: Reading[] = [reading({ name, stat: 'count', value: count, U: isSure ? 0 : 1, ...common })];
  const bends = found.flatMap((f) => (f.bend === null ? [] : [f.bend]));
  if (count > 1 && bends.length >= found.length / 2)
    out.push(
      reading({
        name: `${name}.angle`,
        value: median(bends),
        U: expanded(methodUncertainty(`${name}.angle`, 'value')),
        ...common,
      }),
    );
  else out.push(...refusal(`${name}.angle`, null, ['value'], 'single-plane', coverage));
  const { region } = c.anatomy;
  const outer = c.outerThird((a) => a <= 45 || a >= 315);
  if (isScrap(region, outer)) return [...out, ...refusal(`${name}.depth`, null, ['min'], 'not-seen', n ? coverage : 0)];
  const [thin] = weightedQuantiles(
    withoutNoise(
      outer.map((v) => region.depth[v]),
      region.depthNoise,
    ),
    outer.map((v) => region.areas[v]),
    [0.05],
  );
  out.push(
    reading({
      name: `${name}.depth`,
      stat: 'min',
      value: thin,
      U: expanded(c.anatomy.alignment.pointError, region.depthNoise, methodUncertainty(`${name}.depth`, 'min')),
      ...common,
      samples: outer.length,
    }),
  );
  return out;
}
