import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { mean } from '../../statistics/quantile.ts';
import { edgeError } from '../uncertainty/outline-error.ts';
import { isthmusWidths, outlineWidths, type Width } from './outline-isthmus.ts';

const NAME = 'outline.dovetail';
/** Widths across the groove, 0.1 mm apart, that make an isthmus and an end. */
const LEAST = 6;
/** mm by which a scan's rounding of both edges moves a width. */
const CORNERS = 0.03;

/**
 * Dovetail: how much wider the outline is at its closed ends than at its isthmus.
 * @formula widest ÷ narrowest width across the central groove, the widest taken from the isthmus to a closed end (mean of three neighbouring ones), a box's end left out; the wider of two closed ends
 * @units ratio
 * @frame tooth, seen along the axis
 * @fails no-groove, no-pulpal-floor (a slot), no-outline, no-closed-end (boxes at both ends)
 * @source own definition, docs/definitions.md
 * @example a channel of one width has none and reads 1
 */
export function outlineDovetail(a: CavityAnatomy): Reading[] {
  const groove = a.master.landmarks.grooves.some((g) => g.rank === 'primary' && g.name === 'central');
  const all = outlineWidths(a);
  const widths = isthmusWidths(a, all);
  if (widths.length < LEAST) return refusal(NAME, null, ['value'], !groove ? 'no-groove' : a.pulpal ? 'no-outline' : 'no-pulpal-floor');
  const open = new Set(a.boxes.map((b) => b.side));
  const least = widths.reduce((p, q) => (q.width < p.width ? q : p));
  const ends = (['mesial', 'distal'] as const)
    .filter((side) => !open.has(side))
    .map((side) => all.filter((w) => (side === 'mesial' ? w.x >= least.x : w.x <= least.x)))
    .filter((own) => own.length > 0);
  if (ends.length === 0) return refusal(NAME, null, ['value'], 'no-closed-end');
  /** The widest third of a millimetre: single places are noisy. */
  const widestOf = (own: readonly Width[]): Width =>
    own
      .map((w, i) => ({ ...w, width: mean([own[i - 1] ?? w, w, own[i + 1] ?? w].map((q) => q.width)) }))
      .reduce((p, q) => (q.width > p.width ? q : p));
  const widest = ends.map(widestOf).reduce((p, q) => (q.width > p.width ? q : p));
  const value = widest.width / least.width;
  const u = (Math.SQRT2 * Math.hypot(edgeError(a, null), CORNERS)) / least.width;
  const z = a.pulpal ? a.pulpal.centre[2] : 0;
  return [
    reading({
      name: NAME,
      value,
      U: expanded(u, u * value),
      at: { point: [widest.x, widest.y, z] },
      samples: widths.length,
    }),
  ];
}
