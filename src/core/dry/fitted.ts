import type { BoxSide, Plan } from '../plan/plan.ts';
import type { Reading } from '../result/reading.ts';

/** mm by which a recipe is corrected on one tooth, so that what is read of it is what the plan expects there. */
const NONE = {
  depth: 0,
  isthmus: 0,
  bevel: 0,
  mesialWidth: 0,
  mesialToFacial: 0,
  mesialOverGingiva: 0,
  distalWidth: 0,
  distalToFacial: 0,
  distalOverGingiva: 0,
};
export type Fitted = Readonly<typeof NONE>;
export const UNFITTED: Fitted = NONE;
const FIELDS = Object.keys(UNFITTED) as (keyof Fitted)[];

/** A recipe's correction, and how far what was read of it stayed behind the plan. */
export interface Trial {
  readonly fit: Fitted;
  readonly off: Fitted;
}

/**
 * How far what is read stays behind the plan: teeth differ in how high their inclines stand over a floor, where their neighbours stand
 * beside a box and how round their cusps are under a bevel, and the recipe knows none of it.
 */
export function offBy(plan: Plan, readings: readonly Reading[]): Fitted {
  const expected = (name: string): number | null => plan.steps.flatMap((s) => s.readings).find((r) => r.reading === name)?.final ?? null;
  const read = (name: string, zone?: string): number | null => {
    const all = readings
      .filter((r) => r.name === name && r.value !== null && (r.stat === 'median' || r.stat === 'min' || r.stat === 'value'))
      .filter((r) => !zone || r.zone === zone)
      .map((r) => r.value as number);
    return all.length ? all.reduce((a, b) => a + b, 0) / all.length : null;
  };
  const off = (name: string, zone?: string): number => {
    const [e, r] = [expected(name), read(name, zone)];
    return e === null || r === null ? 0 : e - r;
  };
  const box = (side: BoxSide): { width: number; toFacial: number; overGingiva: number } => {
    const [facial, lingual] = [off('box.clearance.facial', `box ${side}`), off('box.clearance.lingual', `box ${side}`)];
    return { width: facial + lingual, toFacial: (facial - lingual) / 2, overGingiva: -off('box.clearance.gingival', `box ${side}`) };
  };
  const [mesial, distal] = [box('mesial'), box('distal')];
  return {
    depth: off('depth.pulpal'),
    isthmus: off('outline.isthmus'),
    bevel: off('bevel.functional.depth'),
    mesialWidth: mesial.width,
    mesialToFacial: mesial.toFacial,
    mesialOverGingiva: mesial.overGingiva,
    distalWidth: distal.width,
    distalToFacial: distal.toFacial,
    distalOverGingiva: distal.overGingiva,
  };
}

/** A box's walls meet its neighbour at a slant, so that less than the whole of a change is read there. */
const isSlanted = (k: keyof Fitted): boolean => k.startsWith('mesial') || k.startsWith('distal');
/** A gain under which a step would be thrown far: less of a change is read than this share of what was changed. */
const LEAST_GAIN = 0.3;

/** The next correction to try: by the whole of what is missing, for boxes then by the secant through the last two trials. */
export function nextFit(trials: readonly Trial[]): Fitted {
  const last = trials[trials.length - 1];
  const before = trials[trials.length - 2];
  const next = (k: keyof Fitted): number => {
    const moved = before ? last.fit[k] - before.fit[k] : 0;
    const gain = moved === 0 || !isSlanted(k) ? 1 : Math.max(LEAST_GAIN, (before.off[k] - last.off[k]) / moved);
    return last.fit[k] + last.off[k] / gain;
  };
  return Object.fromEntries(FIELDS.map((k) => [k, next(k)])) as Record<keyof Fitted, number>;
}
