import { leanOf } from '../anatomy/lean.ts';
import { findEntry, unitOf } from '../catalogue/catalogue.ts';
import type { Stat, Step, Unit } from '../catalogue/terms.ts';
import type { KindName } from '../kinds/kinds.ts';
import type { Standard, StandardField } from '../score/standard.ts';
import type { Band } from '../score/verdict.ts';
import { outOfReach, roomFor } from './box.ts';
import { allowanceOf, chooseCutter, type OwnCutter } from './choose.ts';
import { expectedConvergence, halfTaper_deg, shareSunk, widestMargin } from './cutter.ts';
import { depthByWidth, grooveDepth, targetOf } from './depth.ts';
import { type HandError, handOn, shareInside, USUAL_HAND } from './hand.ts';
import { lipHeight, passesFor } from './margin.ts';
import { type Duty, type PlanChoices, type StepId, stepsOf, USUAL_CHOICES } from './steps.ts';
import { leanAt, type TiltRoom, tiltFor, tiltRoom } from './wall.ts';

/** Uncertainty with which depths and angles are usually read, for targets that are open on one side and for upper limits. */
const READ: Partial<Record<Unit, number>> = { mm: 0.1, deg: 1.5 };

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

export interface PlannedStep {
  readonly id: StepId;
  readonly number: number;
  readonly duty: Duty | null;
  readonly cutter: string | null;
  /** How deep the cutter is sunk, mm; as a share of its length when it stands on its tip, of its width when it lies. */
  readonly depth: number | null;
  readonly share: number | null;
  readonly shareOf: 'length' | 'width' | null;
  /** mm left for the steps after it. */
  readonly left: number;
  /** Degrees by which the handpiece is tilted to the tooth's middle. */
  readonly tilt: number | null;
  readonly passes: number | null;
  readonly readings: readonly PlannedReading[];
  /** What else is looked at now, with its band. */
  readonly watches: readonly Pick<StandardField, 'reading' | 'zone' | 'stat' | 'band'>[];
  /** Gauge that passes after the step and the one that no longer does, mm. */
  readonly gauge: { readonly passes: number | null; readonly stops: number | null } | null;
  readonly warnings: readonly Warning[];
  readonly scan: Step | null;
  readonly canDamage: readonly string[];
}

export interface Plan {
  readonly kind: KindName;
  readonly tooth: string;
  readonly choices: PlanChoices;
  readonly hand: HandError;
  readonly steps: readonly PlannedStep[];
  /** Sides with a box. */
  readonly boxes: readonly BoxSide[];
  /** How far the hand may tilt at each side before it is undercut or over-tapered, held by the tooth and held by the arch. */
  readonly tilt: readonly { readonly side: string; readonly byTooth: TiltRoom; readonly byArch: TiltRoom }[];
}

export type BoxSide = 'mesial' | 'distal';

export interface PlanFor {
  readonly kind: KindName;
  readonly tooth: string;
  readonly standard: Pick<Standard, 'lines'>;
  readonly cutters: readonly OwnCutter[];
  readonly gauges_mm: readonly number[];
  readonly choices?: PlanChoices;
  readonly hand?: HandError;
  /** Sides that have a box; both where nobody says. */
  readonly boxes?: readonly BoxSide[];
  /** mm from the marginal ridge down to where a box's floor will lie; null where the master does not say. */
  readonly ridgeToFloor?: number | null;
}

/** mm of the first of two cuts. */
const FIRST = 1;

const SIDES = [
  ['facial', 0],
  ['mesial', 90],
  ['lingual', 180],
  ['distal', 270],
] as const;

/** Depths that a cutter is sunk to. */
export const isDepth = (r: string): boolean =>
  /^(reduction\.(occlusal|incisal)|depth\.pulpal|margin\.width|box\.axialdepth|planes\.facial\.depth|bevel\.functional\.depth|groove\.depth|pin\.depth)$/.test(
    r,
  );
const isConvergence = (r: string): boolean => r.startsWith('toc.') || r === 'divergence';

/**
 * The ordered plan of a preparation from a course's standard and cutters: for each step its cutter, how deep it is sunk and by which share of
 * itself, its tilt, what is left, what should be read afterwards with what the hand adds, and what may go wrong.
 */
export function planFor(of: PlanFor): Plan {
  const { kind, tooth, choices = USUAL_CHOICES, hand = USUAL_HAND } = of;
  const fields = of.standard.lines.flatMap((l) => l.fields);
  const find = (name: string, zone?: RegExp): StandardField | undefined =>
    fields.find((f) => f.reading === name && (!zone || zone.test(f.zone ?? '')) && f.stat !== 'p95' && f.stat !== 'p05');
  const width = targetOf(find('margin.width')?.band ?? { lo: null, hi: null }, READ.mm as number);
  const square = fields.some((f) => f.reading === 'margin.form' && /shoulder/.test(f.zone ?? '') && f.band.lo !== null);
  const convergence = fields.find((f) => f.reading.startsWith('toc.'))?.band ?? null;
  const isthmus = find('outline.isthmus')?.band.hi ?? null;
  const wallCutter = chooseCutter('axial', of.cutters, { depth: null, width, squareMargin: square });
  const tilt = convergence && wallCutter ? tiltFor(convergence, wallCutter) : null;

  const planned = stepsOf(
    kind,
    tooth,
    fields.map((f) => f.reading),
    choices,
  ).map((s, i): PlannedStep => {
    const own = fields.filter((f) =>
      s.brings.some((b) => (f.reading === b.reading || f.reading.startsWith(`${b.reading}.`)) && (!b.zones || b.zones.test(f.zone ?? ''))),
    );
    const deepest = own.filter((f) => isDepth(f.reading)).map((f) => targetOf(f.band, READ.mm as number) ?? 0);
    const depth = deepest.length ? Math.max(...deepest) : null;
    const cutter =
      s.duty &&
      chooseCutter(s.duty, of.cutters, { depth, width: s.duty === 'floor' || s.duty === 'box' ? isthmus : width, squareMargin: square });
    const left = s.leaves && cutter ? allowanceOf(cutter) : 0;
    const readings = own.flatMap((f): PlannedReading[] => {
      const walls = isConvergence(f.reading) && wallCutter && tilt !== null ? expectedConvergence(wallCutter, Math.max(0, tilt)) : null;
      const r = plannedReading(f, left, hand, walls);
      if (!r) return [];
      // Cut in two, a groove is first as deep as the first cutter is wide, and no deeper than a millimetre.
      return [s.duty === 'groove' && choices.depth === 'in two' ? { ...r, expected: Math.min(r.expected, FIRST) } : r];
    });
    const sunk = readings.filter((r) => isDepth(r.reading)).map((r) => r.expected);
    // Walls are as deep as the margin at their foot, less what is left for it.
    const deep = sunk.length ? Math.max(...sunk) : s.duty === 'axial' && width !== null ? Math.max(0, width - left) : null;
    const [share, shareOf] = cutter && deep !== null ? sunkBy(s.duty as Duty, cutter, deep) : [null, null];
    const ownTilt = s.duty === 'axial' || s.duty === 'margin' ? tilt : null;
    return {
      id: s.id,
      number: i + 1,
      duty: s.duty,
      cutter: cutter?.id ?? null,
      depth: deep,
      share,
      shareOf,
      left,
      tilt: ownTilt,
      passes: s.duty === 'margin' && cutter && width !== null ? passesFor(width, cutter) : null,
      readings,
      watches: own.filter((f) => !isPlanned(f)).map(({ reading, zone, stat, band }) => ({ reading, zone, stat, band })),
      gauge: gaugeOf(readings, of.gauges_mm),
      warnings: warningsOf(s.duty, cutter, { of, readings, left, deep, width, tilt: ownTilt, convergence, isthmus, hand }),
      scan: s.scan,
      canDamage: s.canDamage,
    };
  });
  const lean = leanOf(tooth);
  const room = wallCutter && tilt !== null;
  return {
    kind,
    tooth,
    choices,
    hand,
    steps: planned,
    boxes: fields.some((f) => f.reading.startsWith('box.')) ? (of.boxes ?? ['mesial', 'distal']) : [],
    tilt: room
      ? SIDES.map(([side, at]) => ({
          side,
          byTooth: tiltRoom(wallCutter, tilt, convergence?.hi ?? null),
          byArch: tiltRoom(wallCutter, tilt, convergence?.hi ?? null, leanAt(lean, at)),
        }))
      : [],
  };
}

/** What a cutter and its tilt decide; the rest (roughness, steps, clearance over an opposing tooth) is looked at when the step is done. */
const BY_CUTTER =
  /^(wall\.angle|form\.lingual\.angle|bevel\.functional\.angle|box\.clearance|margin\.gingiva$|outline\.isthmus|slice\.angle|taper\.wall)/;
/** The thinnest and the deepest of many places are an outcome too. */
const isPlanned = ({ reading: r, stat }: Pick<StandardField, 'reading' | 'stat'>): boolean =>
  stat !== 'p05' && stat !== 'p95' && (isDepth(r) || isConvergence(r) || BY_CUTTER.test(r));

/** A field of the standard as a step works towards it; null where nothing can be aimed at by cutting. */
function plannedReading(f: StandardField, left: number, hand: HandError, convergence: number | null): PlannedReading | null {
  const unit = unitOf(f.reading, f.stat);
  const read = READ[unit];
  const known = findEntry(f.reading);
  if (read === undefined || !known || !isPlanned(f)) return null;
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

/** How much of itself a cutter is sunk for a depth: a groove's lies on its side, everything else stands on its tip. */
function sunkBy(duty: Duty, c: OwnCutter, depth: number): readonly [number | null, 'length' | 'width' | null] {
  if (duty === 'groove' && c.form === 'cylinder')
    return depth <= depthByWidth(c.tip_mm, 1) + 1e-9 ? [depth / c.tip_mm, 'width'] : [shareSunk(c, depth), 'length'];
  if (duty === 'floor' || duty === 'retention') return [shareSunk(c, depth), 'length'];
  if (duty === 'margin' || duty === 'axial') return [depth / c.tip_mm, 'width'];
  return [null, null];
}

/** The thickest gauge that goes through after the step, and the thinnest that does not, from the shallowest depth over the cusps. */
function gaugeOf(readings: readonly PlannedReading[], gauges: readonly number[]): PlannedStep['gauge'] {
  const depths = readings.filter((r) => /^(reduction\.(occlusal|incisal)|clearance)/.test(r.reading)).map((r) => r.expected);
  if (!depths.length || !gauges.length) return null;
  const least = Math.min(...depths);
  const sorted = [...gauges].sort((a, b) => a - b);
  return { passes: sorted.filter((g) => g <= least + 1e-9).pop() ?? null, stops: sorted.find((g) => g > least + 1e-9) ?? null };
}

interface Circumstances {
  readonly of: PlanFor;
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
function warningsOf(duty: Duty | null, c: OwnCutter | null, at: Circumstances): Warning[] {
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
function withoutRoom(of: PlanFor): Warning[] {
  const fields = of.standard.lines.flatMap((l) => l.fields);
  const depth = fields.find((f) => f.reading === 'box.axialdepth');
  const opening = depth ? targetOf(depth.band, READ.mm as number) : null;
  if (opening === null) return [];
  return fields.flatMap((f): Warning[] => {
    const size = /^instrument\.fit\(([\d.]+)\)$/.exec(f.reading)?.[1];
    return size !== undefined && roomFor(Number(size), opening) < 0 ? [{ kind: 'no-room', instrument: Number(size), opening }] : [];
  });
}
