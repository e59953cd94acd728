import type { Reading } from '../result/reading.ts';
import { type Cutter, expectedConvergence, widestMargin } from './cutter.ts';
import { lipHeight } from './margin.ts';

/** A likely cause of a finding, with what it would have made and what was read. */
export interface Cause {
  readonly kind: 'tilted' | 'sunk-short' | 'sunk-over' | 'two-passes' | 'past-half-tip' | 'leaned-out';
  /** The cause's own figure: degrees of tilt, share of the cutter, passes, or mm past half its tip. */
  readonly figure: number;
  readonly reading: string;
  readonly zone: string | null;
  readonly made: number;
  readonly read: number;
  /** Within U of what was read, or within twice of it; anything farther off is not told. */
  readonly fits: 'well' | 'loosely';
}

const fit = (made: number, r: Reading): Cause['fits'] | null => {
  if (r.value === null || r.U === null) return null;
  const off = Math.abs(made - r.value);
  return off <= r.U ? 'well' : off <= 2 * r.U ? 'loosely' : null;
};

const told = (kind: Cause['kind'], figure: number, made: number, r: Reading): Cause[] => {
  const fits = fit(made, r);
  return fits ? [{ kind, figure, reading: r.name, zone: r.zone, made, read: r.value as number, fits }] : [];
};

/** Degrees of tilt from which a wall's lean is told as one. */
const LEAST_TILT = 1.5;

/**
 * What a finding probably came from, by the arithmetic of the cutter that the plan gives: a convergence over the plan's is twice a tilt, and
 * fits if both walls lean by it alike; a margin wider than half the tip is two passes, or one sunk past half the tip where a lip of the height
 * that a round tip leaves was read; a depth off its plan is another share of the cutter.
 * @formula tilt = (convergence read − expected) ÷ 2; passes = width ÷ (tip ÷ 2), to the nearest whole number
 * @units ° and mm
 * @source docs/plan.md
 * @example expected 10°, read 16° with both walls at 8°: tilted by 3° more than planned, fits well
 */
export function causesOf(
  readings: readonly Reading[],
  cutter: Cutter,
  plan: { readonly tilt: number; readonly width: number | null; readonly convergence: number | null },
): Cause[] {
  const of = (name: string, zone: string | null, stat: string): Reading | null =>
    readings.find((r) => r.name === name && r.zone === zone && r.stat === stat && r.value !== null && r.U !== null) ?? null;
  const out: Cause[] = [];
  const expected = plan.convergence ?? expectedConvergence(cutter, plan.tilt);
  for (const [name, sides] of [
    ['toc.faciolingual', ['facial', 'lingual']],
    ['toc.mesiodistal', ['mesial', 'distal']],
  ] as const) {
    const toc = of(name, null, 'mean');
    const walls = sides.map((s) => of('taper.wall', s, 'median'));
    if (!toc || toc.value === null) continue;
    const tilt = (toc.value - expected) / 2;
    if (Math.abs(tilt) < LEAST_TILT) continue;
    // Both walls alike: the hand tilted the same way all round. Otherwise each wall tells its own.
    const each = expected / 2 + tilt;
    if (walls.every((w) => w && Math.abs((w.value as number) - each) <= 2 * (w.U as number)))
      out.push(...told('tilted', tilt, expected + 2 * tilt, toc));
    else
      for (const w of walls) {
        const own = w ? (w.value as number) - expected / 2 : 0;
        if (w && Math.abs(own) >= LEAST_TILT) out.push(...told(own > 0 ? 'tilted' : 'leaned-out', own, expected / 2 + own, w));
      }
  }
  const widest = widestMargin(cutter);
  for (const side of ['facial', 'mesial', 'lingual', 'distal']) {
    const width = of('margin.width', side, 'median');
    if (!width || width.value === null || widest <= 0) continue;
    const lip = of('margin.lip', side, 'p95') ?? of('margin.lip', side, 'max');
    const past = width.value - cutter.tip_mm / 2;
    const wouldLip = lipHeight(width.value, cutter);
    // A lip that the reading could not tell from none is no sign of either.
    if (cutter.tip === 'round' && past > 0 && lip?.value != null && lip.U !== null && lip.value > lip.U)
      out.push(...told('past-half-tip', past, wouldLip, lip));
    else if (width.value > (plan.width ?? widest) + (width.U ?? 0)) {
      const passes = Math.round(width.value / widest);
      if (passes >= 2) out.push(...told('two-passes', passes, passes * widest, width));
    }
  }
  return out;
}

/**
 * A depth beside what the plan expected of its cutter: which share of it was sunk instead.
 * @formula read ÷ width or length of the cutter
 * @units share
 * @source docs/plan.md
 * @example expected 1.0 from a 1.0 cutter, 0.7 read: sunk to seven tenths
 */
export const shareRead = (read_mm: number, cutter: Pick<Cutter, 'tip_mm' | 'length_mm'>, of: 'length' | 'width'): number =>
  read_mm / (of === 'width' ? cutter.tip_mm : cutter.length_mm);
