import type { TrialLine } from './master-draft.ts';

/** How far the trial cut itself may lie from what was asked for, on triangles of a tenth of a millimetre; it counts beside the reading's own U. */
export const CUT_U: Readonly<Record<string, number>> = { mm: 0.05, deg: 0.5 };

/** Whether what was read is what was cut, within both uncertainties; null where nothing was read. */
export const agrees = (l: Pick<TrialLine, 'cut' | 'value' | 'U' | 'unit'>): boolean | null =>
  l.value === null || l.U === null ? null : Math.abs(l.value - l.cut) <= Math.hypot(l.U, CUT_U[l.unit] ?? 0);
