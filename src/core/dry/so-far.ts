import type { OwnCutter } from '../plan/choose.ts';
import { halfTaper_deg } from '../plan/cutter.ts';
import type { Plan, PlannedStep } from '../plan/plan.ts';
import type { PlannedReading } from '../plan/planned-reading.ts';
import type { Duty, StepId } from '../plan/steps.ts';
import type { Sides } from '../simulate/sides.ts';
import type { Fitted } from './fitted.ts';
import type { Way } from './way.ts';

export const sides = (at: (side: keyof Sides) => number): Sides => ({
  facial: at('facial'),
  mesial: at('mesial'),
  lingual: at('lingual'),
  distal: at('distal'),
});

/** Degrees and mm where neither plan nor standard says anything. */
const USUAL_TILT = 3;
const USUAL_TAPER = 2;
const LEAST = 0.1;

/** A plan followed in some way as far as one of its steps: what is cut by then, and how deep. */
export class SoFar {
  readonly done: readonly PlannedStep[];
  readonly isLast: boolean;
  readonly own: OwnCutter | null;
  /** Degrees between a wall and the axis. */
  readonly lean: number;

  constructor(
    readonly plan: Plan,
    cutters: readonly OwnCutter[],
    readonly way: Way,
    readonly step: StepId,
    readonly fit: Fitted,
  ) {
    const at = plan.steps.findIndex((s) => s.id === step);
    this.done = plan.steps.slice(0, at + 1);
    this.isLast = at === plan.steps.length - 1;
    const wall = plan.steps.find((s) => s.duty === 'margin') ?? plan.steps.find((s) => s.duty === 'axial');
    this.own = way.cutter ?? cutters.find((c) => c.id === wall?.cutter) ?? null;
    const planned = cutters.find((c) => c.id === wall?.cutter);
    const taper = planned ? halfTaper_deg(planned) : USUAL_TAPER;
    // A standard that asks for no convergence may ask for the walls one by one.
    const tilt = plan.steps.find((s) => s.tilt !== null)?.tilt ?? this.angle('taper.wall', taper + USUAL_TILT) - taper;
    this.lean = (this.own ? halfTaper_deg(this.own) : USUAL_TAPER) + Math.max(0, tilt) + way.tilt_deg;
  }

  has(...ids: readonly StepId[]): boolean {
    return this.done.some((s) => ids.includes(s.id));
  }

  /** mm that the last of the done steps of a duty's kind left for others; nothing is left at the end. */
  left(duty: Duty): number {
    return this.isLast ? 0 : leftBy(this.done, duty);
  }

  asks(start: string): boolean {
    return this.plan.steps.some((s) => s.readings.some((r) => r.reading.startsWith(start)));
  }

  /** mm to which the done steps bring a reading, what is sunk too deep included. */
  target(name: string, zone: RegExp | null, otherwise: number): number {
    const isIt = (r: PlannedReading): boolean => r.reading === name && (!zone || zone.test(r.zone ?? ''));
    const all = this.plan.steps.flatMap((s) => s.readings).find(isIt);
    const value = all === undefined ? otherwise : (expectedAfter(this.plan, this.step).get(keyOf(all))?.value ?? all.final);
    return Math.max(LEAST, value + this.way.sunk_mm);
  }

  /** Degrees that the plan asks for; nothing is sunk too deep in them. */
  angle(name: string, otherwise: number): number {
    return this.plan.steps.flatMap((s) => s.readings).find((r) => r.reading === name)?.final ?? otherwise;
  }
}

/** What a figure of the standard should read when a plan stands after a step. */
export interface Expected {
  readonly value: number;
  /** No later step brings it further: it can be judged. */
  readonly isDue: boolean;
}

/** Duties of which a later one takes what an earlier one left. */
const TOGETHER: readonly (readonly Duty[])[] = [
  ['axial', 'contact', 'margin'],
  ['groove', 'bulk'],
  ['floor'],
  ['box'],
  ['fossa'],
  ['retention'],
];

/** mm that the last of the steps of a duty's kind left for others. */
const leftBy = (done: readonly PlannedStep[], duty: Duty | null): number => {
  const kind = TOGETHER.find((t) => duty && t.includes(duty));
  return done.filter((s) => s.duty && kind?.includes(s.duty)).pop()?.left ?? 0;
};

/** The figures that the done steps bring, by reading, place and statistic. */
export function expectedAfter(plan: Plan, step: StepId): ReadonlyMap<string, Expected> {
  const at = plan.steps.findIndex((s) => s.id === step);
  const done = plan.steps.slice(0, at + 1);
  const later = new Set(plan.steps.slice(at + 1).flatMap((s) => s.readings.map(keyOf)));
  const isLast = at === plan.steps.length - 1;
  return new Map(
    done.flatMap((s) =>
      s.readings.map((r): [string, Expected] => {
        // What a step left is taken by the next one of its kind that leaves nothing.
        const value = isLast || (s.left > 0 && leftBy(done, s.duty) === 0) ? r.final : r.expected;
        return [keyOf(r), { value, isDue: isLast || (value === r.final && !later.has(keyOf(r))) }];
      }),
    ),
  );
}
export const keyOf = (r: { readonly reading: string; readonly zone: string | null; readonly stat: string }): string =>
  `${r.reading} ${r.zone} ${r.stat}`;

/** Whether a reading has anything to say once a step is done: it was brought or is watched by then, or tells damage that can exist. */
export function speaksAfter(plan: Plan, step: StepId, r: { readonly reading: string; readonly zone: string | null }): boolean {
  const at = plan.steps.findIndex((s) => s.id === step);
  if (at === plan.steps.length - 1) return true;
  const isIt = (q: { readonly reading: string; readonly zone: string | null }): boolean => q.reading === r.reading && q.zone === r.zone;
  return plan.steps
    .slice(0, at + 1)
    .some((s) => s.readings.some(isIt) || s.watches.some(isIt) || s.canDamage.some((d) => r.reading.startsWith(d)));
}
