import { isUpper } from '../../anatomy/anatomy.ts';
import { leanOf } from '../../anatomy/lean.ts';
import { SECTORS, type Sector } from '../../linalg/sectors.ts';
import type { CrownRecipe } from '../crown/recipe.ts';
import type { Sides } from '../sides.ts';
import { azimuthOfSector, type FaultOf } from './fault.ts';

type Crown = Omit<CrownRecipe, 'kind'>;
const crownFault = (f: FaultOf<Crown>) => ({ ...f, of: 'crown' as const });

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
/** Changes the bevel of the functional side, or of another that is named. */
function onBevel(c: Crown, at: string, tooth: string, make: (p: Crown['planes'][number]) => Partial<Crown['planes'][number]>): Crown {
  const azimuth = azimuthOfSector(at || (isUpper(tooth) ? 'lingual' : 'facial'));
  if (!c.planes.some((p) => p.azimuth === azimuth)) throw new RangeError('the recipe has no bevel on the functional side');
  return { ...c, planes: c.planes.map((p) => (p.azimuth === azimuth ? { ...p, ...make(p) } : p)) };
}

/** Faults of a crown, and of the covered side of an onlay or a partial crown. */
export const CROWN_FAULTS = {
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
    make: (c, size, at, tooth) => onBevel(c, at, tooth, (p) => ({ depth: Math.max(0, p.depth - size) })),
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
  'bevel-angle': crownFault({
    words: 'functional bevel at the wrong angle',
    unit: 'deg',
    at: '',
    make: (c, size, at, tooth) => onBevel(c, at, tooth, (p) => ({ angle: p.angle + size })),
  }),
} as const;
