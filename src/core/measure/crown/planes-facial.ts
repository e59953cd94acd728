import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { inSector, SECTORS } from '../../linalg/sectors.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { lineAngleInward, type Piece } from '../../segment/crown/pieces.ts';
import { HALF_PLANES_ALIKE, type Profile } from '../../segment/crown/profile.ts';
import { TURNED } from '../../segment/crown/wall.ts';
import { LineSums } from '../../segment/polyline.ts';
import { isScrap } from '../../segment/target.ts';
import { errorOfMedian, median } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { sidePoints, thirdOf } from '../side-points.ts';
import { depthFigures } from '../zone-depth.ts';
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

/** Planes of one facial profile: pieces within 50° of upright and at least 0.8 mm long, joined while they bend less than 8°. */
export function planesOf(p: Profile): FacialPlanes | null {
  const { wall } = p;
  if (!wall) return null;
  const upright = p.pieces.filter((q) => q.from >= Math.max(0, wall.from - 4) && Math.abs(q.angle - 90) <= 50);
  const planes = joined(upright).filter((q) => q.length >= PLANE_MM);
  if (planes.length === 0) return null;
  if (planes.length === 1) return { count: 1, bend: null };
  const sums = new LineSums(p.r, p.z);
  const [first, last] = [planes[0], planes[planes.length - 1]].map((q) => {
    // The curve from one plane to the next, from the margin and into the edge belongs to none.
    const curve = Math.round(CURVE * (q.to - q.from));
    return lineAngleInward(sums, q.from + curve, q.to - curve);
  });
  return { count: planes.length, bend: first - last };
}

/** Share of a plane at each of its ends that is left out of its direction. */
const CURVE = 0.2;

function joined(pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = [];
  for (const q of pieces) {
    const last = out[out.length - 1];
    if (last && Math.abs(last.angle - q.angle) < THRESHOLDS.wallBend_deg) {
      const length = last.length + q.length;
      out[out.length - 1] = { from: last.from, to: q.to, angle: (last.angle * last.length + q.angle * q.length) / length, length };
    } else out.push(q);
  }
  return out;
}

/**
 * Facial reduction in planes: how many, the angle between the cervical and the occlusal or incisal one, and the thinnest
 * place of the outer third, where a single plane starves.
 * @formula medians over the half planes within 16° of facial; 5 % (by area) of the depth of the facial wall's outer third, of an anterior tooth with what leans up to 45°
 * @units count; degrees; mm
 * @frame tooth
 * @fails no-wall, not-seen
 * @source own definition, docs/definitions.md
 * @example a frustum reads one plane
 */
export function planesFacial(c: CrownContext): Reading[] {
  const name = 'planes.facial';
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
        U: expanded(methodUncertainty(`${name}.angle`, 'value'), errorOfMedian(bends, HALF_PLANES_ALIKE)),
        ...common,
      }),
    );
  else out.push(...refusal(`${name}.angle`, null, ['value'], 'single-plane', coverage));
  const { region, alignment } = c.anatomy;
  // Of an anterior tooth the last plane leans as far as to the edge's own direction.
  const side = sidePoints(c, c.anterior ? TURNED : 0).filter((q) => inSector(q.azimuth, FACIAL));
  const third = thirdOf(side, 2 / 3, 1);
  if (isScrap(region, third.vertices)) return [...out, ...refusal(`${name}.depth`, null, ['min'], 'not-seen', coverage)];
  const zone = { name: `${name}.depth`, zone: null, region, ...third, coverage, alignment: alignment.pointError };
  return [...out, ...depthFigures(zone, [['min', 0.05]])];
}

const [FACIAL] = SECTORS;
