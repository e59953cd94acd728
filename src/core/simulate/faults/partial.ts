import type { PartialRecipe } from '../partial/recipe.ts';
import type { FaultOf } from './fault.ts';

type Cut = Omit<PartialRecipe, 'kind'>;
const partialFault = (f: FaultOf<Cut>) => ({ ...f, of: 'partial' as const });
const inGroove = (c: Cut, side: string, make: (g: Cut['grooves'][number]) => Partial<Cut['grooves'][number]>): Cut => {
  if (!c.grooves.some((g) => g.side === side)) throw new RangeError(`there is no ${side} groove for this fault`);
  return { ...c, grooves: c.grooves.map((g) => (g.side === side ? { ...g, ...make(g) } : g)) };
};

/** Faults of what only a partial crown has. */
export const PARTIAL_FAULTS = {
  'groove-short': partialFault({
    words: 'groove ends high over the finish line',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => inGroove(c, at, (g) => ({ over: g.over + size })),
  }),
  'groove-shallow': partialFault({
    words: 'groove too shallow',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => inGroove(c, at, (g) => ({ depth: Math.max(0.1, g.depth - size) })),
  }),
  'groove-leaning': partialFault({
    words: 'groove leaning off the path',
    unit: 'deg',
    at: 'mesial',
    make: (c, size, at) => inGroove(c, at, (g) => ({ leanFacial: g.leanFacial + size })),
  }),
  'thin-plate': partialFault({
    words: 'facial plate thinned',
    unit: 'share',
    at: '',
    make: (c, size) => ({ ...c, plate: c.plate + size }),
  }),
  'pin-near-margin': partialFault({
    words: 'pinhole too near the finish line',
    unit: 'mm',
    at: '',
    make: (c, size) => {
      if (!c.pin) throw new RangeError('the recipe has no pinhole');
      return { ...c, pin: { ...c.pin, lingual: c.pin.lingual + size } };
    },
  }),
} as const;
