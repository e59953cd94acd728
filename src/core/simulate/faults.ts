import { isUpper } from '../anatomy/anatomy.ts';
import { leanOf } from '../anatomy/lean.ts';
import { SECTORS, type Sector } from '../linalg/sectors.ts';
import type { CavityRecipe } from './cavity/recipe.ts';
import type { CrownRecipe } from './crown/recipe.ts';
import type { Sides } from './sides.ts';

/** A fault as a recipe asks for it: which, how large (in the fault's own unit) and where. */
export interface FaultRecipe {
  readonly fault: FaultName;
  readonly size: number;
  /** A sector, a cusp's name or a box's side, as the fault wants; its usual place when left out. */
  readonly at?: string;
}

type Crown = Omit<CrownRecipe, 'kind'>;
type Cavity = Omit<CavityRecipe, 'kind'>;

interface FaultOf<T> {
  /** In the trade's words. */
  readonly words: string;
  readonly unit: 'mm' | 'deg' | 'share';
  /** Where it is met most. */
  readonly at: string;
  make(clean: T, size: number, at: string, tooth: string): T;
}

const crownFault = (f: FaultOf<Crown>) => ({ ...f, of: 'crown' as const });
const cavityFault = (f: FaultOf<Cavity>) => ({ ...f, of: 'cavity' as const });

const azimuthOfSector = (at: string): number => {
  const s = SECTORS.find((q) => q.name === at);
  if (!s) throw new RangeError(`"${at}" is no sector: ${SECTORS.map((q) => q.name).join(', ')}`);
  return s.centre;
};

/** Adds an amount that is full at an azimuth, nothing a quarter turn on and taken off on the far side. */
function leaned(s: Sides, degrees: number, azimuth: number): Sides {
  const at = (centre: number): number => degrees * Math.cos(((centre - azimuth) * Math.PI) / 180);
  return { facial: s.facial + at(0), mesial: s.mesial + at(90), lingual: s.lingual + at(180), distal: s.distal + at(270) };
}

const place = (
  c: Crown,
  p: { azimuth: number; halfWidth: number; over: number; height?: number; width?: number; lip?: number },
): Crown => ({
  ...c,
  margin: { ...c.margin, places: [...(c.margin.places ?? []), p] },
});
const tilted = (c: Crown, at: string, lean: number): Crown => ({
  ...c,
  tilts: [...c.tilts, { azimuth: azimuthOfSector(at), halfWidth: 30, lean }],
});
const onFloor = (c: Cavity, make: (o: NonNullable<Cavity['occlusal']>) => Partial<NonNullable<Cavity['occlusal']>>): Cavity => {
  if (!c.occlusal) throw new RangeError('this fault is one of the occlusal part, and the recipe has none');
  return { ...c, occlusal: { ...c.occlusal, ...make(c.occlusal) } };
};
const inBox = (c: Cavity, side: string, make: (b: Cavity['boxes'][number]) => Partial<Cavity['boxes'][number]>): Cavity => {
  if (!c.boxes.some((b) => b.side === side)) throw new RangeError(`there is no ${side} box for this fault`);
  return { ...c, boxes: c.boxes.map((b) => (b.side === side ? { ...b, ...make(b) } : b)) };
};

/** What students get wrong most, and the critical errors, each as one parameter: a size and a place over a clean recipe. */
export const FAULTS = {
  'shallow-cusp': crownFault({
    words: 'cusp under-reduced',
    unit: 'mm',
    at: 'MB',
    make: (c, size, at) => ({
      ...c,
      occlusal: { ...c.occlusal, cusps: { ...c.occlusal.cusps, [at]: Math.max(0, c.occlusal.functional - size) } },
    }),
  }),
  'over-reduced': crownFault({
    words: 'grossly over-reduced',
    unit: 'mm',
    at: '',
    make: (c, size) => ({
      ...c,
      occlusal: {
        ...c.occlusal,
        functional: c.occlusal.functional + size,
        nonFunctional: c.occlusal.nonFunctional + size,
        elsewhere: c.occlusal.elsewhere + size,
      },
    }),
  }),
  'flat-top': crownFault({ words: 'cusps cut straight across', unit: 'share', at: '', make: (c, size) => ({ ...c, flatten: size }) }),
  'line-angle': crownFault({
    words: 'line angle under-reduced',
    unit: 'mm',
    at: 'mesiofacial',
    make: (c, size, at) => place(c, { azimuth: azimuthOfSector(at), halfWidth: 10, over: 15, width: -size }),
  }),
  'over-taper': crownFault({ words: 'wall over-tapered', unit: 'deg', at: 'distolingual', make: (c, size, at) => tilted(c, at, size) }),
  undercut: crownFault({
    words: 'wall undercut',
    unit: 'deg',
    at: 'distolingual',
    // Measured from upright: the clean taper is taken off as well.
    make: (c, size, at) => tilted(c, at, -size - (c.taper.lingual + c.taper.distal) / 2),
  }),
  'whole-tilt': crownFault({
    words: 'whole preparation tilted',
    unit: 'deg',
    at: 'lingual',
    make: (c, size, at) => ({ ...c, taper: leaned(c.taper, size, azimuthOfSector(at)) }),
  }),
  upright: crownFault({
    words: 'cut upright in the arch, the tooth’s lean forgotten',
    unit: 'share',
    at: '',
    // The crown leans towards mesial and facial; a preparation that does not leans back, so that those walls converge too much.
    make: (c, size, _at, tooth) => {
      const [mesial, facial] = leanOf(tooth);
      const azimuth = (Math.atan2(mesial, facial) * 180) / Math.PI;
      return { ...c, taper: leaned(c.taper, size * Math.hypot(mesial, facial), azimuth) };
    },
  }),
  'functional-bevel': crownFault({
    words: 'functional cusp bevel too shallow or left out',
    unit: 'mm',
    at: '',
    make: (c, size, at, tooth) => {
      const azimuth = azimuthOfSector(at || (isUpper(tooth) ? 'lingual' : 'facial'));
      if (!c.planes.some((p) => p.azimuth === azimuth)) throw new RangeError('the recipe has no bevel on the functional side');
      return { ...c, planes: c.planes.map((p) => (p.azimuth === azimuth ? { ...p, depth: Math.max(0, p.depth - size) } : p)) };
    },
  }),
  'contact-left': crownFault({
    words: 'contact not broken, a shell of tooth left standing',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => {
      if (at !== 'mesial' && at !== 'distal') throw new RangeError(`"${at}" has no contact: mesial or distal`);
      return { ...c, shell: { side: at, thickness: size } };
    },
  }),
  'single-plane': crownFault({
    words: 'second facial plane too shallow',
    unit: 'mm',
    at: 'facial',
    make: (c, size) => ({ ...c, planes: c.planes.map((p) => ({ ...p, depth: Math.max(0, p.depth - size) })) }),
  }),
  'incisal-angle': crownFault({
    words: 'incisal edge at the wrong angle',
    unit: 'deg',
    at: '',
    make: (c, size) => ({ ...c, incisalTilt: size }),
  }),
  lip: crownFault({
    words: 'lip from a cutter sunk too deep',
    unit: 'mm',
    at: 'distolingual',
    make: (c, size, at) => place(c, { azimuth: azimuthOfSector(at), halfWidth: 18, over: 12, lip: size }),
  }),
  wander: crownFault({
    words: 'finish line wandering',
    unit: 'mm',
    at: '',
    // Waves of about 2 mm: slower ones are a course, not a wander.
    make: (c, size) => ({ ...c, margin: { ...c.margin, wander: size, waves: 15 } }),
  }),
  'margin-step': crownFault({
    words: 'step where two cuts meet',
    unit: 'mm',
    at: 'mesiolingual',
    make: (c, size, at) => place(c, { azimuth: azimuthOfSector(at), halfWidth: 25, over: 2, height: size }),
  }),
  'margin-high': crownFault({
    words: 'finish line left high over the gingiva',
    unit: 'mm',
    at: 'mesial',
    make: (c, size, at) => place(c, { azimuth: azimuthOfSector(at), halfWidth: 35, over: 25, height: size }),
  }),
  'margin-below': crownFault({
    words: 'finish line below the gingiva',
    unit: 'mm',
    at: 'facial',
    make: (c, size, at) => {
      const azimuth = azimuthOfSector(at);
      const side = SECTORS.find((q) => q.centre === azimuth)?.name as Sector;
      const height = side in c.margin.height ? c.margin.height[side as keyof Sides] : 0.5;
      return place(c, { azimuth, halfWidth: 25, over: 30, height: -height - size });
    },
  }),
  'margin-narrow': crownFault({
    words: 'margin too narrow',
    unit: 'mm',
    at: 'lingual',
    make: (c, size, at) => place(c, { azimuth: azimuthOfSector(at), halfWidth: 35, over: 20, width: -size }),
  }),
  'sharp-edge': crownFault({
    words: 'sharp occlusoaxial edge',
    unit: 'mm',
    at: '',
    make: (c, size) => ({ ...c, edgeRadius: Math.max(0, c.edgeRadius - size) }),
  }),
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
  'wrong-tooth': {
    of: 'surroundings' as const,
    words: 'neighbour prepared in place of the tooth that was asked for',
    unit: 'share' as const,
    at: 'mesial',
  },
  neighbour: {
    of: 'surroundings' as const,
    words: 'neighbour scratched',
    unit: 'mm' as const,
    at: 'mesial',
  },
} as const;

export type FaultName = keyof typeof FAULTS;
export const FAULT_NAMES = Object.keys(FAULTS) as FaultName[];
