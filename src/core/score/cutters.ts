import { entryOf } from '../catalogue/catalogue.ts';
import type { Reading } from '../result/reading.ts';

/** Generic cutter shapes; no maker's numbers. */
export type CutterShape = 'round-end taper' | 'flat-end taper' | 'pear' | 'straight fissure' | 'fine-grit finisher' | 'hand trimmer';

export interface Cutter {
  readonly shape: CutterShape;
  /** mm across its tip, or across the whole where it is straight; null for hand instruments. */
  readonly diameter: number | null;
  /** Degrees that its axis leans from the tooth's towards the middle; null where that does not matter. */
  readonly tilt: number | null;
}

/** mm across the tips of the usual sets, and degrees of half taper of the tapered ones. */
const TAPER_TIPS = [0.8, 1, 1.2, 1.4, 1.6, 1.8, 2.1];
const FISSURES = [0.8, 0.9, 1, 1.2];
export const HALF_TAPER = 2.5;

/** Value of one reading; null where there is none. */
export const readValue = (readings: readonly Reading[], name: string, zone: string | null, stat: string): number | null =>
  readings.find((r) => r.name === name && r.zone === zone && r.stat === stat)?.value ?? null;

/** Whether most of the margin was cut as a shoulder, which needs a flat-ended cutter. */
const isShouldered = (readings: readonly Reading[]): boolean =>
  ['shoulder', 'rounded shoulder'].reduce((s, f) => s + (readValue(readings, 'margin.form', f, 'share') ?? 0), 0) > 0.5;

/**
 * A cutter for the least further cutting of one finding: its shape by the catalogue's rule for what is cut, its size by the
 * arithmetic of the trade. A round end sunk over half its tip leaves a lip, so a clean chamfer wants a tip twice its width;
 * a wall leans by the cutter's half taper and its tilt; what goes into a slot is no wider than the slot.
 */
export function cutterFor(reading: Pick<Reading, 'name'>, to: number, readings: readonly Reading[]): Cutter | null {
  const isFlat = isShouldered(readings);
  const tapered = (least: number, tilt: number | null): Cutter => ({
    shape: isFlat ? 'flat-end taper' : 'round-end taper',
    diameter: TAPER_TIPS.find((d) => d >= least - 1e-9) ?? TAPER_TIPS[TAPER_TIPS.length - 1],
    tilt,
  });
  const width = readValue(readings, 'margin.width', null, 'median') ?? 0.6;
  const tip = isFlat ? width : 2 * width;
  switch (entryOf(reading.name).cutter) {
    case 'margin':
      return tapered(isFlat ? to : 2 * to, null);
    case 'wall':
      return tapered(tip, Math.round(to - HALF_TAPER));
    case 'opposite walls':
      return tapered(tip, Math.round(to / 2 - HALF_TAPER));
    case 'axial': {
      const lean = readValue(readings, 'wall.lean', null, 'median');
      return tapered(tip, lean === null ? null : Math.round(lean - HALF_TAPER));
    }
    case 'bulk':
      return { shape: 'round-end taper', diameter: 1.2, tilt: null };
    case 'floor': {
      const isthmus = readValue(readings, 'outline.isthmus', null, 'min');
      const fits = isthmus === null ? FISSURES[0] : ([...FISSURES].reverse().find((d) => d <= isthmus - 0.1) ?? FISSURES[0]);
      return { shape: 'pear', diameter: fits, tilt: null };
    }
    case 'slot':
      return { shape: 'straight fissure', diameter: 0.9, tilt: null };
    case 'trimmer':
      return { shape: 'hand trimmer', diameter: null, tilt: null };
    case 'finisher':
      return { shape: 'fine-grit finisher', diameter: null, tilt: null };
    case null:
      return null;
  }
}
