import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { inSector, SECTORS } from '../../linalg/sectors.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { HALF_PLANES_ALIKE } from '../../segment/crown/profile.ts';
import { errorOfMedian, median } from '../../statistics/quantile.ts';
import type { CrownContext } from '../crown/context.ts';

/** degrees of arc that a slice must cover to have a lean. */
const LEAST_ARC = 16;

/**
 * Angle of the proximal slices to the long axis.
 * @formula median lean of the primary wall over the covered azimuths of the mesial and of the distal sector
 * @units degrees, + converging occlusally
 * @frame tooth
 * @fails not-covered, no-wall
 * @source own definition, docs/definitions.md
 * @example a slice that leans 5° inward reads 5
 */
export function sliceAngle(c: CrownContext): Reading[] {
  return (['mesial', 'distal'] as const).flatMap((side): Reading[] => {
    const sector = SECTORS.find((s) => s.name === side) as (typeof SECTORS)[number];
    const own = c.azimuths.flatMap((a, k) => (c.anatomy.covered[k] && inSector(a, sector) ? [k] : []));
    const leans = own.flatMap((k) => c.lean[k] ?? []);
    if (own.length * (360 / c.azimuths.length) < LEAST_ARC) return refusal('slice.angle', side, ['median'], 'not-covered');
    if (leans.length < own.length / 2) return refusal('slice.angle', side, ['median'], 'no-wall', leans.length / own.length);
    const U = expanded(
      toDegrees(c.anatomy.alignment.turnError),
      errorOfMedian(leans, HALF_PLANES_ALIKE),
      methodUncertainty('slice.angle', 'median'),
    );
    return [
      reading({
        name: 'slice.angle',
        zone: side,
        stat: 'median',
        value: median(leans),
        U,
        at: { azimuth: c.azimuths[own[own.length >> 1]] },
        coverage: leans.length / own.length,
        samples: leans.length,
      }),
    ];
  });
}
