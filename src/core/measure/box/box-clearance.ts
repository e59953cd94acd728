import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { neighbourClosed } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { cornerError, edgeError } from '../uncertainty/outline-error.ts';
import { gingivalEdge } from './box-size.ts';

/** mm: a gap above this counts as open. */
const FAR = 5;

/** z of the margin's run beyond which it runs up the proximal face. */
const RISING = 0.5;

/** Outline places of a box's facial and lingual margin: beyond the axial wall, above its floor's edge, each side of its middle. */
export function sideMargin(a: CavityAnatomy, b: Box, side: 'facial' | 'lingual', moved = 0): OutlinePoint[] {
  const below = new Set(gingivalEdge(a, b));
  return a.outline.filter((o) => {
    if (below.has(o) || b.sign * (o.p[0] - (axialX(b, o.p[1]) ?? 0)) < 0.3) return false;
    // Only where the margin runs up the proximal face: over the marginal ridge it turns level.
    return (side === 'facial' ? o.p[1] > b.floor.centre[1] : o.p[1] < b.floor.centre[1]) && Math.abs(o.tangent[2]) > RISING + moved;
  });
}

/**
 * Clearance of the box from the neighbour: smallest gap between each of its margins and the adjacent tooth.
 * @formula least distance from the margin's outline places to the neighbour's master surface
 * @units mm
 * @frame tooth
 * @fails no-neighbour, no-outline
 * @source own definition, docs/definitions.md
 * @example a margin half a millimetre from the neighbour reads 0.5
 */
export function boxClearance(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b) =>
    (['facial', 'lingual', 'gingival'] as const).flatMap((which): Reading[] => {
      const name = `box.clearance.${which}`;
      const zone = `box ${b.side}`;
      if (!a.master[b.side]) return refusal(name, zone, ['min'], 'no-neighbour');
      const gap = narrowestGap(a, b, which);
      if (!gap) return refusal(name, zone, ['min'], 'no-outline');
      const index = a.outline.indexOf(gap.at);
      const U = expanded(
        a.alignment.pointError,
        edgeError(a, index),
        cornerError(a, index, gap.across),
        gap.end,
        methodUncertainty(name, 'min'),
      );
      return [reading({ name, zone, stat: 'min', value: gap.width, U, at: { point: gap.at.p }, samples: gap.samples })];
    }),
  );
}

/** mm from the narrowest place at which the gap is looked at again: where it grows to every side the narrowest place is sure, at a margin's end it is not. */
const BESIDE = [0.15, 0.3] as const;

interface Gap {
  readonly at: OutlinePoint;
  /** The neighbour's place across the gap. */
  readonly across: Vec3;
  readonly width: number;
  readonly samples: number;
  /** mm by which the gap may be narrower beyond the place where the margin is taken to end. */
  readonly end: number;
}

/** The place of a box's margin that comes nearest to the neighbour, and the neighbour's place across the gap. */
export function narrowestGap(a: CavityAnatomy, b: Box, which: 'facial' | 'lingual' | 'gingival'): Gap | null {
  const neighbour = neighbourClosed(a.master, b.side);
  if (!neighbour) return null;
  const margin = which === 'gingival' ? gingivalEdge(a, b) : sideMargin(a, b, which);
  const hit = newClosest();
  let best: Omit<Gap, 'end'> | null = null;
  for (const o of margin) {
    if (!closestPoint(neighbour, o.p[0], o.p[1], o.p[2], hit, Math.min(FAR, best?.width ?? FAR))) continue;
    best = { at: o, across: [hit.x, hit.y, hit.z], width: Math.sqrt(hit.distanceSquared), samples: margin.length };
  }
  if (!best) return null;
  const { at, width } = best;
  const beside = margin.flatMap((o) => {
    const d = Math.hypot(o.p[0] - at.p[0], o.p[1] - at.p[1], o.p[2] - at.p[2]);
    if (d < BESIDE[0] || d > BESIDE[1] || !closestPoint(neighbour, o.p[0], o.p[1], o.p[2], hit, FAR)) return [];
    return [Math.sqrt(hit.distanceSquared) - width];
  });
  return { ...best, end: beside.length ? Math.min(...beside) / 2 : 0 };
}
