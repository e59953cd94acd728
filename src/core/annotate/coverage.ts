import { azimuthOf } from '../linalg/sectors.ts';
import { PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { besideIt } from './arch.ts';
import { inTooth, type Laid } from './fit.ts';
import { EVERY, type MarginFound, marginHeights } from './margin.ts';

/** How much of what a master needs the scan shows. */
export interface Coverage {
  /** Neighbours that stand in the row but were not found. A third molar may be absent. */
  readonly missing: readonly ('mesial' | 'distal')[];
  /** Share of the directions in which the target ends at gingiva that was seen. */
  readonly margin_share: number;
  /** Degrees round the target in which the scan ends on its crown. */
  readonly cut_deg: number;
}

/** mm over the gingival margin from which an open border is an end of the scan on the crown. */
const OVER = 1;

/**
 * What of the target's surroundings the scan shows: both neighbours, the gingiva all round, and the whole crown.
 * @formula share and degrees over 72 directions round the tooth's axis
 * @units share; degrees
 */
export function coverageOf(
  mesh: Mesh,
  parts: Uint8Array,
  laid: Laid,
  margin: MarginFound,
  found: { readonly tooth: string; readonly mesial: boolean; readonly distal: boolean },
  onBorder: Uint8Array,
): Coverage {
  const distal = besideIt(found.tooth, 1);
  const n = 360 / EVERY;
  const low = marginHeights(margin.curve, laid);
  const cut = new Set<number>();
  const p = mesh.positions;
  for (let v = 0; v < parts.length; v++) {
    if (parts[v] !== PART.target || !onBorder[v]) continue;
    const q = inTooth(laid, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const direction = Math.floor(azimuthOf(q[0], q[1]) / EVERY) % n;
    if (q[2] > low[direction] + OVER) cut.add(direction);
  }
  return {
    missing: [
      ...(found.mesial ? [] : (['mesial'] as const)),
      ...(found.distal || distal === null || distal[1] === '8' ? [] : (['distal'] as const)),
    ],
    margin_share: margin.seen,
    cut_deg: EVERY * cut.size,
  };
}
