import { findEntry, unitOf } from '../catalogue/catalogue.ts';
import type { Stat, Unit } from '../catalogue/terms.ts';
import type { StandardField } from '../score/standard.ts';
import type { Band } from '../score/verdict.ts';
import { grooveDepth, targetOf } from './depth.ts';
import { type HandError, handOn, shareInside } from './hand.ts';

/** Uncertainty with which depths and angles are usually read, for targets that are open on one side and for upper limits. */
export const READ: Partial<Record<Unit, number>> = { mm: 0.1, deg: 1.5 };

/** One figure that a step works towards. */
export interface PlannedReading {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: Unit;
  readonly band: Band;
  /** What it should read after this step, and after the last one. */
  readonly expected: number;
  readonly final: number;
  /** Standard deviation that the hand adds. */
  readonly hand: number;
  /** How often a hand that follows the plan ends inside the band. */
  readonly inside: number;
  /** It cannot be put right once it is too much. */
  readonly isFinal: boolean;
}

/** Depths that a cutter is sunk to. */
export const isDepth = (r: string): boolean =>
  /^(reduction\.(occlusal|incisal)|depth\.pulpal|margin\.width|box\.axialdepth|planes\.facial\.depth|bevel\.functional\.depth|groove\.depth|pin\.depth)$/.test(
    r,
  );
export const isConvergence = (r: string): boolean => r.startsWith('toc.') || r === 'divergence';

/** What a cutter and its tilt decide; the rest (roughness, steps, clearance over an opposing tooth) is looked at when the step is done. */
const BY_CUTTER =
  /^(wall\.angle|form\.lingual\.angle|bevel\.functional\.angle|box\.clearance|margin\.gingiva$|outline\.isthmus|slice\.angle|taper\.wall)/;
/** The thinnest and the deepest of many places are an outcome too. */
export const isPlanned = ({ reading: r, stat }: Pick<StandardField, 'reading' | 'stat'>): boolean =>
  stat !== 'p05' && stat !== 'p95' && (isDepth(r) || isConvergence(r) || BY_CUTTER.test(r));

/** A field of the standard as a step works towards it; null where nothing can be aimed at by cutting. */
export function plannedReading(f: StandardField, left: number, hand: HandError, convergence: number | null): PlannedReading | null {
  const unit = unitOf(f.reading, f.stat);
  const read = READ[unit];
  const known = findEntry(f.reading);
  if (read === undefined || !known || !isPlanned(f)) return null;
  // How far a margin stands over the gingiva is aimed at where both ends are given; “at least” leaves its place to the preparation.
  if (f.reading === 'margin.gingiva' && (f.band.lo === null || f.band.hi === null)) return null;
  const isCut = isDepth(f.reading);
  const aim = targetOf(f.band, read);
  const final = convergence ?? (isCut ? grooveDepth(f.band, 0, f.band.lo !== null && f.band.hi !== null ? 0 : read) : aim);
  if (final === null) return null;
  const s = handOn(f.reading, unit, hand);
  return {
    reading: f.reading,
    zone: f.zone,
    stat: f.stat,
    unit,
    band: f.band,
    expected: isCut ? Math.max(0, final - left) : final,
    final,
    hand: s,
    inside: shareInside(final, s, f.band),
    isFinal: known.cutting === 'up',
  };
}
