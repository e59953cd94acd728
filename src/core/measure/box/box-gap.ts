import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { neighbourClosed } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';
import { closestPoint, newClosest, type Surface } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { cornerError, edgeError } from '../uncertainty/outline-error.ts';
import { sideMargin } from './box-clearance.ts';
import { gingivalEdge } from './box-size.ts';

const NAME = 'box.gap.even';
/** mm: a gap above this counts as open. */
const FAR = 5;
/** How far the z of the run is moved at which a side's margin is taken to end: on a wide marginal ridge it turns level over half a millimetre, in which the gap opens most. */
const ENDS_MOVED = 0.2;
/** Places of a margin that make a spread. */
const LEAST = 6;

/**
 * Evenness of the gap to the neighbour along each margin of a box; the narrowest place is box.clearance's.
 * @formula p95 − p05 of the distance from the margin's outline places to the neighbour's master surface
 * @units mm
 * @frame tooth
 * @fails no-neighbour, no-outline
 * @source own definition, docs/definitions.md
 * @example a margin parallel to the neighbour reads 0
 */
export function boxGap(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b) =>
    (['facial', 'lingual', 'gingival'] as const).flatMap((which): Reading[] => {
      const zone = `box ${b.side} ${which}`;
      const neighbour = neighbourClosed(a.master, b.side);
      if (!neighbour) return refusal(NAME, zone, ['value'], 'no-neighbour');
      const margin = (moved: number): OutlinePoint[] => (which === 'gingival' ? gingivalEdge(a, b) : sideMargin(a, b, which, moved));
      const gaps = gapsOf(margin(0), neighbour);
      if (gaps.length < LEAST) return refusal(NAME, zone, ['value'], 'no-outline');
      const widest = gaps.reduce((x, y) => (y.width > x.width ? y : x));
      const narrowest = gaps.reduce((x, y) => (y.width < x.width ? y : x));
      const errors = [widest, narrowest].flatMap(({ o, across }) => {
        const index = a.outline.indexOf(o);
        return [edgeError(a, index), cornerError(a, index, across)];
      });
      const value = spread(gaps);
      // Where a margin is taken to end decides how far the gap opens: at either end of its rise, and two of its last places.
      const ends = [-ENDS_MOVED, ENDS_MOVED].map((moved) => spread(gapsOf(margin(moved), neighbour)) - value);
      const end = Math.max(...ends.map(Math.abs)) / Math.sqrt(3);
      return [
        reading({
          name: NAME,
          zone,
          value,
          U: expanded(...errors, end, (4 * value) / gaps.length, methodUncertainty(NAME, 'value')),
          at: { point: widest.o.p },
          samples: gaps.length,
        }),
      ];
    }),
  );
}

interface Gap {
  readonly o: OutlinePoint;
  readonly width: number;
  readonly across: Vec3;
}

function gapsOf(margin: readonly OutlinePoint[], neighbour: Surface<'tooth'>): Gap[] {
  const hit = newClosest();
  return margin.flatMap((o) =>
    closestPoint(neighbour, o.p[0], o.p[1], o.p[2], hit, FAR)
      ? [{ o, width: Math.sqrt(hit.distanceSquared), across: [hit.x, hit.y, hit.z] as const }]
      : [],
  );
}

/** Widest less narrowest gap, without a twentieth at either end; nothing of too few places. */
function spread(gaps: readonly Gap[]): number {
  if (gaps.length < 2) return 0;
  const widths = gaps.map((g) => g.width);
  const [low, high] = weightedQuantiles(
    widths,
    widths.map(() => 1),
    [0.05, 0.95],
  );
  return high - low;
}
