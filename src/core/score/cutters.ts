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

/** Whether most of the margin was cut as a shoulder: a flat-ended cutter goes on with it. */
const shouldered = (readings: readonly Reading[]): boolean =>
  ['shoulder', 'rounded shoulder'].reduce((s, f) => s + (readValue(readings, 'margin.form', f, 'share') ?? 0), 0) > 0.5;

/**
 * A cutter for the least further cutting of one finding: its shape by what is cut, its size by the arithmetic of the trade.
 * A round end sunk over half its tip leaves a lip, so a clean chamfer wants a tip twice its width; a wall leans by the
 * cutter's half taper and its tilt; what goes into a slot is no wider than the slot.
 */
export function cutterFor(reading: Pick<Reading, 'name' | 'zone'>, to: number, readings: readonly Reading[]): Cutter | null {
  const { name } = reading;
  const flat = shouldered(readings);
  const tapered = (least: number, tilt: number | null): Cutter => ({
    shape: flat ? 'flat-end taper' : 'round-end taper',
    diameter: TAPER_TIPS.find((d) => d >= least - 1e-9) ?? TAPER_TIPS[TAPER_TIPS.length - 1],
    tilt,
  });
  const width = readValue(readings, 'margin.width', null, 'median') ?? 0.6;
  const tip = flat ? width : 2 * width;
  if (name === 'margin.width') return tapered(flat ? to : 2 * to, null);
  if (name.startsWith('taper.wall') || name === 'wall.lean' || name.startsWith('toc.'))
    return tapered(tip, Math.round((name.startsWith('toc.') ? to / 2 : to) - HALF_TAPER));
  if (name.startsWith('reduction.axial') || name === 'margin.gingiva') {
    const lean = readValue(readings, 'wall.lean', null, 'median');
    return tapered(tip, lean === null ? null : Math.round(lean - HALF_TAPER));
  }
  if (/^(reduction|clearance|bevel|planes)/.test(name)) return { shape: 'round-end taper', diameter: 1.2, tilt: null };
  if (/^(depth\.pulpal|outline|floor\.pulpal)/.test(name)) {
    const isthmus = readValue(readings, 'outline.isthmus', null, 'min');
    const fits = isthmus === null ? FISSURES[0] : ([...FISSURES].reverse().find((d) => d <= isthmus - 0.1) ?? FISSURES[0]);
    return { shape: 'pear', diameter: fits, tilt: null };
  }
  if (/^(box\.(axialdepth|height)|pin|groove)/.test(name)) return { shape: 'straight fissure', diameter: 0.9, tilt: null };
  if (/^(box\.clearance|axiopulpal|enamel)/.test(name)) return { shape: 'hand trimmer', diameter: null, tilt: null };
  if (/^(margin\.(lip|step|wander)|edge\.|surface\.)/.test(name)) return { shape: 'fine-grit finisher', diameter: null, tilt: null };
  return null;
}
