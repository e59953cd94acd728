import type { KindName } from '../kinds/kinds.ts';
import type { OwnCutter } from '../plan/choose.ts';
import type { Plan } from '../plan/plan.ts';
import type { StepId } from '../plan/steps.ts';
import { CLEAN_ONLAY } from '../simulate/onlay/recipe.ts';
import type { OwnCut } from '../simulate/own/own-shop.ts';
import { CLEAN_PARTIAL } from '../simulate/partial/recipe.ts';
import { CLEAN_SLICE } from '../simulate/preformed/recipe.ts';
import { crownSoFar } from './crown.ts';
import { type Fitted, UNFITTED } from './fitted.ts';
import { hollowSoFar } from './hollow.ts';
import { SoFar } from './so-far.ts';
import { AS_PLANNED, type Way } from './way.ts';

/**
 * What is cut of a tooth when a plan stands after one of its steps: depths as the plan expects them there plus what is sunk too deep, walls
 * at the cutter's half taper plus tilt, a margin as wide as planned with the lip that one pass of the cutter leaves, sides that no step has
 * reached still standing. Null where the kind cannot be cut dry.
 */
export function cutAfter(plan: Plan, cutters: readonly OwnCutter[], way: Way, step: StepId, fit: Fitted = UNFITTED): OwnCut | null {
  const s = new SoFar(plan, cutters, way, step, fit);
  const kind = plan.kind as KindName;
  switch (kind) {
    case 'crown': {
      const isAnterior = plan.steps.some((t) => t.id === 'lingual-wall');
      const standing = [
        ...(s.has(isAnterior ? 'facial-planes' : 'axial', 'margin') ? [] : (['facial'] as const)),
        ...(s.has(isAnterior ? 'lingual-wall' : 'axial', 'margin') ? [] : (['lingual'] as const)),
        ...(s.has('contacts', 'margin') ? [] : (['mesial', 'distal'] as const)),
      ];
      return { preparation: crownSoFar(s), standing };
    }
    case 'partial': {
      const lean = s.angle('slice.angle', s.lean - way.tilt_deg) + way.tilt_deg;
      if (!s.has('lingual-wall')) {
        const slice = { ...CLEAN_SLICE, lean };
        return { preparation: { kind: 'preformed', occlusal: 0, mesial: slice, distal: slice }, standing: [] };
      }
      const { kind: _, ...whole } = crownSoFar(s);
      const crown = { ...whole, taper: { ...whole.taper, mesial: lean, distal: lean } };
      const grooves = CLEAN_PARTIAL.grooves.map((g) => ({
        ...g,
        width: s.target('groove.width', null, g.width) - way.sunk_mm,
        depth: s.target('groove.depth', null, g.depth),
        leanOut: way.tilt_deg,
      }));
      return { preparation: { ...CLEAN_PARTIAL, crown, grooves: s.has('grooves') ? grooves : [] }, standing: [] };
    }
    case 'cavity':
      return { preparation: hollowSoFar(s), standing: [] };
    case 'onlay': {
      const hollow = hollowSoFar(s);
      if (!s.has('depth-cuts')) return { preparation: hollow, standing: [] };
      const { kind: _a, ...inside } = hollow;
      const { kind: _b, ...cover } = crownSoFar(s);
      const margin = { ...cover.margin, height: CLEAN_ONLAY.cover.margin.height };
      return {
        preparation: { ...CLEAN_ONLAY, cover: { ...cover, margin }, inside, shoulder: s.has('margin') },
        standing: [],
      };
    }
    // No core reads a preformed crown's preparation yet.
    case 'preformed':
    case 'restoration':
      return null;
  }
}

/** The steps after which a tooth that is cut dry looks different from before; the last one is always among them. */
export function stopsOf(plan: Plan, cutters: readonly OwnCutter[]): StepId[] {
  let before = '';
  return plan.steps.flatMap((s, i) => {
    const now = JSON.stringify(cutAfter(plan, cutters, AS_PLANNED, s.id));
    const isNew = now !== before && now !== 'null';
    before = now;
    return isNew || (i === plan.steps.length - 1 && now !== 'null') ? [s.id] : [];
  });
}
