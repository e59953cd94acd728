import type { CavityRecipe } from '../cavity/recipe.ts';
import type { Sides } from '../sides.ts';
import type { FaultOf } from './fault.ts';

type Cavity = Omit<CavityRecipe, 'kind'>;
const cavityFault = (f: FaultOf<Cavity>) => ({ ...f, of: 'cavity' as const });

const onFloor = (c: Cavity, make: (o: NonNullable<Cavity['occlusal']>) => Partial<NonNullable<Cavity['occlusal']>>): Cavity => {
  if (!c.occlusal) throw new RangeError('this fault is one of the occlusal part, and the recipe has none');
  return { ...c, occlusal: { ...c.occlusal, ...make(c.occlusal) } };
};
const inBox = (c: Cavity, side: string, make: (b: Cavity['boxes'][number]) => Partial<Cavity['boxes'][number]>): Cavity => {
  if (!c.boxes.some((b) => b.side === side)) throw new RangeError(`there is no ${side} box for this fault`);
  return { ...c, boxes: c.boxes.map((b) => (b.side === side ? { ...b, ...make(b) } : b)) };
};

/** mm from wave to wave of a chattering cutter, and the narrowest bevel that is still cut. */
const CHATTER_MM = 0.5;
const LEAST_BEVEL_MM = 0.1;

/** Faults of a cavity, and of an onlay's inside. */
export const CAVITY_FAULTS = {
  'dished-floor': cavityFault({ words: 'pulpal floor dished', unit: 'mm', at: '', make: (c, size) => onFloor(c, () => ({ dish: size })) }),
  'tilted-floor': cavityFault({
    words: 'pulpal floor deeper at one end',
    unit: 'deg',
    at: '',
    make: (c, size) => onFloor(c, () => ({ tiltMesial: size })),
  }),
  'too-deep': cavityFault({
    words: 'floor too deep, towards the pulp',
    unit: 'mm',
    at: '',
    make: (c, size) => onFloor(c, (o) => ({ depth: o.depth + size })),
  }),
  'too-shallow': cavityFault({
    words: 'floor too shallow, decay left',
    unit: 'mm',
    at: '',
    make: (c, size) => onFloor(c, (o) => ({ depth: o.depth - size })),
  }),
  'wide-isthmus': cavityFault({
    words: 'isthmus too wide',
    unit: 'mm',
    at: '',
    make: (c, size) => onFloor(c, (o) => ({ isthmus: o.isthmus + size })),
  }),
  'thin-ridge': cavityFault({
    words: 'marginal ridge left thin',
    unit: 'share',
    at: 'distal',
    make: (c, size, at) => onFloor(c, (o) => (at === 'mesial' ? { mesial: o.mesial + size } : { distal: o.distal + size })),
  }),
  'crossed-ridge': cavityFault({
    words: 'oblique ridge crossed',
    unit: 'share',
    at: 'distal',
    make: (c, size) => onFloor(c, (o) => ({ distal: o.distal + size })),
  }),
  'converging-wall': cavityFault({
    words: 'wall converging where it must diverge',
    unit: 'deg',
    at: 'facial',
    make: (c, size, at) => onFloor(c, (o) => ({ walls: { ...o.walls, [at]: size } })),
  }),
  'flared-wall': cavityFault({
    words: 'box wall left flared',
    unit: 'deg',
    at: 'mesial',
    make: (c, size, at) => inBox(c, at, (b) => ({ facial: b.facial - size })),
  }),
  'undermined-enamel': cavityFault({
    words: 'enamel undermined',
    unit: 'deg',
    at: 'lingual',
    make: (c, size, at) => onFloor(c, (o) => ({ walls: { ...o.walls, [at]: o.walls[at as keyof Sides] + size } })),
  }),
  'sharp-axiopulpal': cavityFault({
    words: 'axiopulpal line angle sharp',
    unit: 'mm',
    at: '',
    make: (c, size) => ({ ...c, axiopulpal: Math.max(0, c.axiopulpal - size) }),
  }),
  'closed-contact': cavityFault({
    words: 'box not clear of the neighbour',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => inBox(c, at, (b) => ({ width: b.width - 2 * size })),
  }),
  'gingival-contact': cavityFault({
    words: 'too little gap at the gingival floor',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => inBox(c, at, (b) => ({ overGingiva: b.overGingiva + size })),
  }),
  'shallow-axial': cavityFault({
    words: 'axial wall too shallow',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => inBox(c, at, (b) => ({ axialDepth: b.axialDepth - size })),
  }),
  'wrong-surface': cavityFault({
    words: 'box cut on the wrong surface',
    unit: 'share',
    at: '',
    make: (c, size) => {
      if (c.boxes.length !== 1) throw new RangeError('this fault wants a cavity with one box');
      return size > 0 ? { ...c, boxes: c.boxes.map((b) => ({ ...b, side: b.side === 'mesial' ? 'distal' : 'mesial' })) } : c;
    },
  }),
  'no-dovetail': cavityFault({
    words: 'dovetail left out',
    unit: 'share',
    at: '',
    make: (c, size) => onFloor(c, (o) => ({ dovetail: Math.max(0, o.dovetail - size) })),
  }),
  'box-askew': cavityFault({
    words: 'box cut askew, the handpiece leaning to facial',
    unit: 'deg',
    at: 'mesial',
    make: (c, size, at) => inBox(c, at, (b) => ({ facial: b.facial - size, lingual: b.lingual + size })),
  }),
  'rough-walls': cavityFault({
    words: 'walls left rough by a chattering cutter',
    unit: 'mm',
    at: '',
    make: (c, size) => ({ ...c, chatter: { height: size, length: CHATTER_MM } }),
  }),
  'bevel-narrow': cavityFault({
    words: 'gingival bevel too narrow',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) =>
      inBox(c, at, ({ bevel }) => {
        if (!bevel) throw new RangeError(`the ${at} box has no gingival bevel for this fault`);
        return { bevel: { ...bevel, along: Math.max(LEAST_BEVEL_MM, bevel.along - size) } };
      }),
  }),
} as const;
