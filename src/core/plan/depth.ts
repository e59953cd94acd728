import type { Band } from '../score/verdict.ts';

/**
 * Depth of a groove that is cut first: what the standard aims at less what is left for finishing, and never past the upper limit less the
 * uncertainty with which it will be read. Null where the band has no lower end: nothing is asked for.
 * @formula min(target − allowance, hi − U); target the band's middle, or lo + U where it is open above
 * @units mm
 * @source docs/plan.md
 * @example 1.5 to 2.0 with 0.3 left for finishing: 1.45; a band of 0.8 to 1.0 with nothing left and U 0.15: 0.85
 */
export function grooveDepth(band: Band, allowance_mm: number, U_mm: number): number | null {
  const target = targetOf(band, U_mm);
  if (target === null) return null;
  return Math.max(0, Math.min(target - allowance_mm, band.hi === null ? Infinity : band.hi - U_mm));
}

/**
 * What a band aims at: its middle; just inside where it is open on one side.
 * @formula (lo + hi) ÷ 2, lo + U or hi − U
 * @units those of the band
 * @source docs/plan.md
 * @example 1.0 to 1.6: 1.3
 */
export function targetOf({ lo, hi }: Band, U: number): number | null {
  if (lo !== null && hi !== null) return (lo + hi) / 2;
  if (lo !== null) return lo + U;
  return hi === null ? null : hi - U;
}

/**
 * Depth that a straight cutter cuts when it is laid in sideways by a share of its width.
 * @formula share · d
 * @units mm
 * @source docs/plan.md
 * @example a straight 1.0 cutter laid in its full width cuts 1.0, half its width 0.5
 */
export const depthByWidth = (diameter_mm: number, share: number): number => diameter_mm * share;

/**
 * What is still to be cut, as an interval.
 * @formula target − (x ± U)
 * @units mm
 * @source docs/plan.md
 * @example target 1.5, read 1.1 ± 0.1: 0.3 to 0.5
 */
export const leftToCut = (target_mm: number, read_mm: number, U_mm: number): readonly [least: number, most: number] => [
  target_mm - read_mm - U_mm,
  target_mm - read_mm + U_mm,
];

/**
 * Whether too much is gone for certain.
 * @formula x − U > hi
 * @units mm
 * @source docs/plan.md
 * @example 2.3 ± 0.1 against 2.0: lost; 2.05 ± 0.1: not certain
 */
export const isLost = (read_mm: number, U_mm: number, hi_mm: number | null): boolean => hi_mm !== null && read_mm - U_mm > hi_mm;
