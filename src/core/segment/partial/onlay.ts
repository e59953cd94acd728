import type { Alignment } from '../../align/align.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import type { Master } from '../../master/master.ts';
import { quantile } from '../../statistics/quantile.ts';
import { type Box, type CavityAnatomy, takeCavityApart } from '../cavity/cavity.ts';
import type { OutlinePoint } from '../cavity/outline.ts';
import { type CrownAnatomy, takeCrownApart } from '../crown/crown.ts';
import { targetRegion } from '../target.ts';

/** A segmented onlay: the covered part as a crown, the internal part as a cavity. */
export interface OnlayAnatomy {
  readonly crown: CrownAnatomy;
  readonly cavity: CavityAnatomy;
  /** The whole edge between prepared and uncut, covered side and inside together. */
  readonly edge: readonly OutlinePoint[];
}

/** mm beyond a box floor's own width that still counts as its edge. */
const BESIDE = 0.25;

export function takeOnlayApart(alignment: Alignment, master: Master): OnlayAnatomy {
  const region = targetRegion(alignment, master);
  const whole = takeCavityApart(alignment, master, true, region);
  const spans = whole.boxes.map((b) => spanOf(whole, b));
  const inBox = (x: number, y: number): boolean => spans.some((s) => s.sign * x > 0 && y > s.from - BESIDE && y < s.to + BESIDE);
  const crown = takeCrownApart(alignment, master, { inBox }, region);
  const n = crown.covered.length;
  const outline = whole.outline.filter((o) => !crown.covered[Math.round((azimuthOf(o.p[0], o.p[1]) / 360) * n) % n]);
  return { crown, cavity: { ...whole, outline }, edge: whole.outline };
}

function spanOf(a: CavityAnatomy, b: Box): { sign: 1 | -1; from: number; to: number } {
  const y = b.floor.vertices.map((v) => a.region.mesh.positions[3 * v + 1]);
  return { sign: b.sign, from: quantile(y, 0.02), to: quantile(y, 0.98) };
}
