import { leanOf } from '../anatomy/lean.ts';
import type { Standard } from '../score/standard.ts';
import type { Band } from '../score/verdict.ts';
import { outOfReach, roomFor } from './box.ts';
import type { OwnCutter } from './choose.ts';
import { halfTaper_deg, widestMargin } from './cutter.ts';
import { targetOf } from './depth.ts';
import type { HandError } from './hand.ts';
import { lipHeight, passesFor } from './margin.ts';
import { isDepth, type PlannedReading, READ } from './planned-reading.ts';
import type { Duty } from './steps.ts';
import { leanAt, tiltRoom } from './wall.ts';

/** The sides of a tooth by their azimuth. */
export const SIDES = [
  ['facial', 0],
  ['mesial', 90],
  ['lingual', 180],
  ['distal', 270],
] as const;

export type Warning =
  | { readonly kind: 'no-cutter'; readonly duty: Duty }
  | { readonly kind: 'lip'; readonly width: number; readonly widest: number; readonly passes: number; readonly lip: number }
  | { readonly kind: 'no-clean-margin' }
  | { readonly kind: 'short'; readonly depth: number; readonly length: number }
  | { readonly kind: 'out-of-reach'; readonly by: number }
  | { readonly kind: 'no-room'; readonly instrument: number; readonly opening: number }
  | { readonly kind: 'too-tapered'; readonly convergence: number; readonly hi: number }
  | { readonly kind: 'undercut'; readonly sides: readonly string[]; readonly room: number }
  | { readonly kind: 'allowance'; readonly ends: number; readonly band: Band }
  | { readonly kind: 'too-wide'; readonly tip: number; readonly hi: number };

/** What of an exercise the warnings depend on. */
interface About {
  readonly tooth: string;
  readonly standard: Pick<Standard, 'lines'>;
  readonly ridgeToFloor?: number | null;
}

interface Circumstances {
  readonly of: About;
  readonly readings: readonly PlannedReading[];
  readonly left: number;
  readonly deep: number | null;
  readonly width: number | null;
  readonly tilt: number | null;
  readonly convergence: Band | null;
  readonly isthmus: number | null;
  readonly hand: HandError;
}

/** What may go wrong at a step by the arithmetic of its cutter. */
export function warningsOf(duty: Duty | null, c: OwnCutter | null, at: Circumstances): Warning[] {
  if (duty === null) return [];
  if (c === null) return [{ kind: 'no-cutter', duty }];
  const out: Warning[] = [];
  const { readings, left, deep, width, tilt, convergence, isthmus, of } = at;
  if (duty === 'margin' && width !== null) {
    const passes = passesFor(width, c);
    if (passes === null) out.push({ kind: 'no-clean-margin' });
    else if (passes > 1) out.push({ kind: 'lip', width, widest: widestMargin(c), passes, lip: lipHeight(width, c) });
  }
  if ((duty === 'floor' || duty === 'groove' || duty === 'retention') && deep !== null && deep > c.length_mm)
    out.push({ kind: 'short', depth: deep, length: c.length_mm });
  if (duty === 'box' && of.ridgeToFloor) {
    const by = outOfReach(of.ridgeToFloor, c.length_mm);
    if (by > 0) out.push({ kind: 'out-of-reach', by });
  }
  if (duty === 'box') out.push(...withoutRoom(of));
  if (duty === 'axial' && tilt !== null) {
    if (tilt < 0 && convergence?.hi != null && 2 * halfTaper_deg(c) > convergence.hi)
      out.push({ kind: 'too-tapered', convergence: 2 * halfTaper_deg(c), hi: convergence.hi });
    // A hand errs by up to two of its standard deviations one time in twenty.
    const lean = leanOf(of.tooth);
    const sides = SIDES.filter(
      ([, azimuth]) => tiltRoom(c, Math.max(0, tilt), null, leanAt(lean, azimuth)).toUndercut < 2 * at.hand.tilt_deg,
    );
    if (sides.length)
      out.push({
        kind: 'undercut',
        sides: sides.map(([s]) => s),
        room: Math.min(...sides.map(([, azimuth]) => tiltRoom(c, Math.max(0, tilt), null, leanAt(lean, azimuth)).toUndercut)),
      });
  }
  if (left > 0) {
    const ends = readings
      .map((r) => [r, r.expected + left] as const)
      .find(
        ([r, end]) =>
          isDepth(r.reading) && ((r.band.hi !== null && end > r.band.hi + 1e-9) || (r.band.lo !== null && end < r.band.lo - 1e-9)),
      );
    if (ends) out.push({ kind: 'allowance', ends: ends[1], band: ends[0].band });
  }
  if (duty === 'floor' && isthmus !== null && c.tip_mm > isthmus) out.push({ kind: 'too-wide', tip: c.tip_mm, hi: isthmus });
  return out;
}

/** The instrument that the standard wants to go into the box, where the box as planned is narrower than it. */
function withoutRoom(of: About): Warning[] {
  const fields = of.standard.lines.flatMap((l) => l.fields);
  const depth = fields.find((f) => f.reading === 'box.axialdepth');
  const opening = depth ? targetOf(depth.band, READ.mm as number) : null;
  if (opening === null) return [];
  return fields.flatMap((f): Warning[] => {
    const size = /^instrument\.fit\(([\d.]+)\)$/.exec(f.reading)?.[1];
    return size !== undefined && roomFor(Number(size), opening) < 0 ? [{ kind: 'no-room', instrument: Number(size), opening }] : [];
  });
}
