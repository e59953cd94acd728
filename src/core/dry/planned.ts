import type { KindName } from '../kinds/kinds.ts';
import type { OwnCutter } from '../plan/choose.ts';
import { halfTaper_deg, widestMargin } from '../plan/cutter.ts';
import { lipHeight, passesFor } from '../plan/margin.ts';
import type { Plan } from '../plan/plan.ts';
import type { PlannedReading } from '../plan/planned-reading.ts';
import type { Reading } from '../result/reading.ts';
import { box, CLEAN_CLASS_I } from '../simulate/cavity/recipe.ts';
import { CLEAN_CROWN, type CrownRecipe, type MarginPlace } from '../simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '../simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL } from '../simulate/partial/recipe.ts';
import { CLEAN_PREFORMED } from '../simulate/preformed/recipe.ts';
import type { Preparation } from '../simulate/preparation.ts';
import type { Sides } from '../simulate/sides.ts';

/** How somebody follows a plan: what the hand adds to its tilt, how much too deep everything is sunk, and in how many passes a margin is cut. */
export interface Way {
  readonly tilt_deg: number;
  readonly sunk_mm: number;
  /** One pass sunk as far as it takes, or as many as leave no lip. */
  readonly onePass: boolean;
  /** Cutter for walls and margin in place of the plan's. */
  readonly cutter: OwnCutter | null;
}
export const AS_PLANNED: Way = { tilt_deg: 0, sunk_mm: 0, onePass: false, cutter: null };

/** mm by which a hollow's recipe is corrected on one tooth, so that what is read of it is what the plan expects there. */
export interface Fitted {
  readonly depth: number;
  readonly width: number;
  readonly toFacial: number;
  readonly overGingiva: number;
}
export const UNFITTED: Fitted = { depth: 0, width: 0, toFacial: 0, overGingiva: 0 };

/**
 * What a hollow cut as planned has to be changed by: teeth differ in how high their inclines stand over a floor and where their neighbours
 * stand beside a box, and the recipe knows neither.
 */
export function fittedTo(plan: Plan, readings: readonly Reading[]): Fitted {
  const expected = (name: string): number | null => plan.steps.flatMap((s) => s.readings).find((r) => r.reading === name)?.final ?? null;
  const read = (name: string): number | null => {
    const all = readings
      .filter((r) => r.name === name && r.value !== null && (r.stat === 'median' || r.stat === 'min'))
      .map((r) => r.value as number);
    return all.length ? all.reduce((a, b) => a + b, 0) / all.length : null;
  };
  const off = (name: string): number => {
    const [e, r] = [expected(name), read(name)];
    return e === null || r === null ? 0 : e - r;
  };
  const [facial, lingual] = [off('box.clearance.facial'), off('box.clearance.lingual')];
  return {
    depth: off('depth.pulpal'),
    width: facial + lingual,
    toFacial: (facial - lingual) / 2,
    overGingiva: -off('box.clearance.gingival'),
  };
}

/** A stage at which the simulated tooth can be looked at: cut so far, with what the plan leaves. */
export type DryStage = 'first' | 'second' | 'finished';

const sides = (at: (side: keyof Sides) => number): Sides => ({
  facial: at('facial'),
  mesial: at('mesial'),
  lingual: at('lingual'),
  distal: at('distal'),
});

/**
 * A plan as the simulator's recipe at a stage: depths as the plan expects them there plus what is sunk too deep, walls at the cutter's half
 * taper plus tilt, a margin as wide as planned with the lip that one pass of the cutter leaves. Null where the kind cannot be cut dry.
 */
export function plannedPreparation(
  plan: Plan,
  cutters: readonly OwnCutter[],
  way: Way,
  stage: DryStage,
  fit: Fitted = UNFITTED,
): Preparation | null {
  const all = plan.steps.flatMap((s) => s.readings);
  const isLast = stage === 'finished';
  const left = isLast
    ? 0
    : Math.max(0, ...plan.steps.filter((s) => s.duty === 'axial' || s.duty === 'floor' || s.duty === 'box').map((s) => s.left));
  const target = (name: string, zone: RegExp | null, otherwise: number): number => {
    const r: PlannedReading | undefined = all.find((q) => q.reading === name && (!zone || zone.test(q.zone ?? '')));
    return Math.max(0.1, (r?.final ?? otherwise) + way.sunk_mm);
  };
  const wallStep = plan.steps.find((s) => s.duty === 'margin') ?? plan.steps.find((s) => s.duty === 'axial');
  const own = way.cutter ?? cutters.find((c) => c.id === wallStep?.cutter) ?? null;
  const tilt = Math.max(0, plan.steps.find((s) => s.tilt !== null)?.tilt ?? 3) + way.tilt_deg;
  const lean = (own ? halfTaper_deg(own) : 2) + tilt;
  const crown = crownOf(plan, { target, own, lean, left, way });
  const lowered = {
    ...CLEAN_PREFORMED,
    occlusal: crown.incisal ?? crown.occlusal.elsewhere,
    mesial: null,
    distal: null,
  };
  switch (plan.kind as KindName) {
    case 'crown':
      return stage === 'first' ? lowered : crown;
    case 'partial': {
      const { kind: _, ...cover } = crown;
      const grooves = CLEAN_PARTIAL.grooves.map((g) => ({
        ...g,
        width: target('groove.width', null, g.width) - way.sunk_mm,
        depth: target('groove.depth', null, g.depth),
        leanOut: way.tilt_deg,
      }));
      return { ...CLEAN_PARTIAL, crown: { ...cover, taper: { ...cover.taper } }, grooves: stage === 'first' ? [] : grooves };
    }
    case 'cavity':
    case 'onlay': {
      const depth = target('depth.pulpal', null, 1.8);
      const isOnlay = plan.kind === 'onlay';
      const wall = (isOnlay ? -1 : 1) * (isOnlay ? lean : 3);
      const hasBox = isOnlay || all.some((r) => r.reading.startsWith('box.'));
      const occlusal = {
        ...(CLEAN_CLASS_I.occlusal as NonNullable<typeof CLEAN_CLASS_I.occlusal>),
        depth: Math.max(0.3, depth + fit.depth - (isLast ? 0 : left)),
        isthmus: isOnlay ? 2.2 : target('outline.isthmus', null, 1.2) - way.sunk_mm,
        tiltFacial: way.tilt_deg,
        ...(isOnlay ? { walls: sides(() => wall), dovetail: 0.1 } : {}),
      };
      const boxes = (isOnlay ? (['mesial', 'distal'] as const) : plan.boxes).map((side) =>
        box(side, {
          width: (isOnlay ? 3.6 : 3.4) + fit.width,
          toFacial: fit.toFacial,
          overGingiva: Math.max(0.1, 0.7 + fit.overGingiva),
          axialDepth: target('box.axialdepth', null, 1.3) - (isLast ? 0 : left),
          ...(isOnlay ? { facial: wall, lingual: wall, axial: wall } : { facial: 3 + way.tilt_deg, lingual: 2 + way.tilt_deg }),
        }),
      );
      const inside = { ...CLEAN_CLASS_I, occlusal, boxes: hasBox && stage !== 'first' ? boxes : [] };
      if (!isOnlay || stage !== 'finished') return inside;
      const { kind: _a, ...cover } = crown;
      const { kind: _b, ...hollow } = inside;
      return { ...CLEAN_ONLAY, cover: { ...cover, margin: { ...cover.margin, height: CLEAN_ONLAY.cover.margin.height } }, inside: hollow };
    }
    default:
      return null;
  }
}

function crownOf(
  plan: Plan,
  {
    target,
    own,
    lean,
    left,
    way,
  }: { target: (n: string, z: RegExp | null, o: number) => number; own: OwnCutter | null; lean: number; left: number; way: Way },
): CrownRecipe {
  const all = plan.steps.flatMap((s) => s.readings);
  const width = (side: string): number => Math.max(0.15, target('margin.width', new RegExp(`^(${side})?$`), 0.6) - left);
  const square = own?.tip === 'flat';
  // As wide as the whole margin in one pass, a round tip leaves its lip; in passes of half its tip none.
  const one = way.onePass && own !== null && (passesFor(width('facial'), own) ?? 1) > 1;
  const lip = own && one ? lipHeight(width('facial'), own) : 0;
  const places: MarginPlace[] = lip > 0 ? [{ azimuth: 0, halfWidth: 180, over: 1, lip }] : [];
  const planes = all.some((r) => r.reading.startsWith('planes.facial'))
    ? [{ azimuth: 0, halfWidth: 60, angle: 20, depth: target('planes.facial.depth', null, 1.1) }]
    : [];
  const hasIncisal = all.some((r) => r.reading === 'reduction.incisal');
  const elsewhere = target('reduction.occlusal', /groove/, target('reduction.occlusal', null, hasIncisal ? 0.8 : 1.2) - way.sunk_mm);
  return {
    ...CLEAN_CROWN,
    occlusal: {
      functional: target('reduction.occlusal', /^functional/, elsewhere - way.sunk_mm),
      nonFunctional: target('reduction.occlusal', /^non-functional/, elsewhere - way.sunk_mm),
      elsewhere,
    },
    ...(hasIncisal ? { incisal: target('reduction.incisal', null, 1.5) } : {}),
    taper: sides(() => lean),
    margin: {
      ...CLEAN_CROWN.margin,
      rounding: square ? 0.25 : own ? Math.min(1, widestMargin(own) / width('facial')) : 1,
      width: sides(width),
      height: sides((s) => Math.max(0.05, target('margin.gingiva', new RegExp(`^${s}$`), 0.5) - way.sunk_mm)),
      ...(places.length ? { places } : {}),
    },
    planes,
  };
}
