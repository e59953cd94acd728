import * as v from 'valibot';
import type { OwnCutter } from '#core/plan/choose.ts';
import type { Guide } from '#core/plan/guide.ts';
import type { Plan } from '#core/plan/plan.ts';
import type { StepId } from '#core/plan/steps.ts';
import type { Verdict } from '#core/score/verdict.ts';
import type { StepCheck } from './course.ts';
import type { DepthBands } from './depth-ramp.ts';
import type { CutterItem } from './kit.ts';

/** Choices on which schools differ. */
export const PlanChoices = v.object({
  depthCuts: v.picklist(['in the grooves', 'on the ridges']),
  first: v.picklist(['occlusal', 'margin']),
  depth: v.picklist(['in two', 'at once']),
});
export type PlanChoices = v.InferOutput<typeof PlanChoices>;

/** The plan of an exercise, with what it is drawn on. */
export interface PlanView {
  readonly exercise: {
    readonly id: string;
    readonly title: string;
    readonly tooth: string;
    readonly kind: string;
    readonly course: string;
  };
  readonly standard: string;
  readonly plan: Plan;
  readonly cutters: readonly CutterItem[];
  readonly guide: Guide;
  readonly checks: readonly StepCheck[];
  readonly bands: DepthBands;
  /** Steps after which the tooth can be looked at when the plan is followed dry; none where that cannot be. */
  readonly stops: readonly StepId[];
  /** Whoever looks may change the choices. */
  readonly mayChoose: boolean;
}

const degrees = (least: number, most: number) =>
  v.pipe(v.number(), v.finite(), v.minValue(least, `At least ${least}°.`), v.maxValue(most, `At most ${most}°.`));
/** A way of following a plan dry, and how far. */
export const DryForm = v.object({
  tilt_deg: degrees(-10, 10),
  sunk_mm: v.pipe(v.number(), v.finite(), v.minValue(-0.6, 'At most 0.6 mm short.'), v.maxValue(1, 'At most 1 mm too deep.')),
  onePass: v.boolean(),
  cutter: v.nullable(v.string()),
  /** The step of the plan as far as which it is followed. */
  step: v.string(),
});
export type DryForm = v.InferOutput<typeof DryForm>;

/** One figure of the plan as it was read on the tooth that was cut dry. */
export interface DryLine {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly unit: string;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly expected: number | null;
  readonly value: number | null;
  readonly U: number | null;
  readonly reason: string | null;
  readonly verdict: Verdict;
  /** No later step of the plan brings it further. */
  readonly isDue: boolean;
}
export interface DryView {
  readonly lines: readonly DryLine[];
  /** The tooth as the viewer takes it, and its sections, both as base64. */
  readonly display: string;
  readonly profiles: string;
  readonly seconds: number;
}

/** A cutter of the course's list as the core takes it. */
export const ownCutter = ({ id, name, form, tip, cutsAtEnd, shank_mm, tip_mm, length_mm, grit }: CutterItem): OwnCutter => ({
  id,
  name,
  form,
  tip,
  cutsAtEnd,
  shank_mm,
  tip_mm,
  length_mm,
  grit,
});
