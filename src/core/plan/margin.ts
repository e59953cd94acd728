import { type Cutter, widestMargin } from './cutter.ts';

type Tip = Pick<Cutter, 'tip' | 'tip_mm'>;

/**
 * Passes that a margin of a width takes without a lip; null with a tip that leaves no clean margin at all.
 * @formula ⌈width ÷ widest clean margin⌉
 * @units count
 * @source docs/plan.md
 * @example a margin of 0.9 with a round tip of 1.2 (clean up to 0.6): two passes
 */
export function passesFor(width_mm: number, tip: Tip): number | null {
  const widest = widestMargin(tip);
  return widest > 0 ? Math.max(1, Math.ceil(width_mm / widest - 1e-9)) : null;
}

/**
 * Height of the lip that a round tip leaves at the edge when it is sunk sideways past its middle in one pass: the outer edge then lies
 * over the far half of its tip, which rises again. Nothing up to half the tip; none with a flat one.
 * @formula R − √(R² − (width − R)²), R = tip ÷ 2; R where the whole tip is sunk
 * @units mm
 * @source a circle's own height over its lowest point
 * @example a round tip of 1.2 sunk 1.0: R 0.6, 0.4 past its middle, lip 0.153
 */
export function lipHeight(width_mm: number, tip: Tip): number {
  if (tip.tip !== 'round') return 0;
  const R = tip.tip_mm / 2;
  const past = width_mm - R;
  if (past <= 0) return 0;
  return past >= R ? R : R - Math.sqrt(R * R - past * past);
}
