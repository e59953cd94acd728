import { leanOf } from '../anatomy/lean.ts';
import type { Step } from '../catalogue/terms.ts';
import type { KindName } from '../kinds/kinds.ts';
import type { Standard, StandardField } from '../score/standard.ts';
import { allowanceOf, chooseCutter, type OwnCutter } from './choose.ts';
import { expectedConvergence, shareSunk } from './cutter.ts';
import { depthByWidth, targetOf } from './depth.ts';
import { type HandError, USUAL_HAND } from './hand.ts';
import { passesFor } from './margin.ts';
import { isConvergence, isDepth, isPlanned, type PlannedReading, plannedReading, READ } from './planned-reading.ts';
import { type Duty, type PlanChoices, type StepId, stepsOf, USUAL_CHOICES } from './steps.ts';
import { leanAt, type TiltRoom, tiltFor, tiltRoom } from './wall.ts';
import { SIDES, type Warning, warningsOf } from './warnings.ts';

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
