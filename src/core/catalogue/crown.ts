import { ANGLES, AROUND, BY_EXPLORER, BY_PROBE, type Entry, entry, FROM_AXIAL, FROM_OCCLUSAL, LENGTHS, method } from './entry.ts';
import type { HandMethod, Stat } from './terms.ts';
import { ZONES } from './zones.ts';

const DEPTHS: readonly Stat[] = ['p05', 'median', 'p95'];
const BY_GAUGE: readonly HandMethod[] = ['gauge', 'probe', 'wax', 'eye'];

const occlusalCut = {
  quantity: 'depth',
  hand: BY_GAUGE,
  cutting: 'up',
  cutter: 'bulk',
  steps: FROM_OCCLUSAL,
  takes: [{ reading: 'wall.height', per: 1 }],
} as const;

export const REDUCTION: readonly Entry[] = [
  entry('reduction.occlusal', 'occlusal reduction', 'mm', DEPTHS, ZONES.occlusal, {
    ...occlusalCut,
    colours: 'occlusal',
    method: LENGTHS,
  }),
  entry('reduction.occlusal.area', 'prepared occlusal area', 'mm2', ['value'], ZONES.occlusal, { hand: [], steps: FROM_OCCLUSAL }),
  entry('reduction.incisal', 'incisal reduction', 'mm', ['value', 'min', 'max'], ZONES.whole, {
    quantity: 'depth',
    hand: BY_GAUGE,
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    // A scan blunts a thin edge; by how much depends on how thin it is.
    method: method(0.03),
  }),
  entry('reduction.axial', 'axial reduction', 'mm', DEPTHS, ZONES.thirds, {
    quantity: 'depth',
    hand: BY_GAUGE,
    cutting: 'up',
    cutter: 'axial',
    steps: FROM_AXIAL,
    colours: 'axial',
    method: LENGTHS,
  }),
  entry('reduction.axial.area', 'prepared wall area', 'mm2', ['value'], ZONES.thirds, { hand: [], steps: FROM_AXIAL }),
  entry('reduction.sites', 'depth at', 'mm', ['value'], ZONES.sites, {
    quantity: 'depth',
    hand: BY_GAUGE,
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_AXIAL,
    method: LENGTHS,
  }),
  entry('clearance.static', 'clearance in occlusion', 'mm', ['min'], ZONES.facing, {
    ...occlusalCut,
    quantity: 'gap',
    method: LENGTHS,
  }),
  entry('clearance.lateral', 'clearance in lateral excursions', 'mm', ['min'], ZONES.facing, {
    ...occlusalCut,
    quantity: 'gap',
    takes: [],
    method: method(0.02, 0.025),
  }),
  entry('clearance.protrusive', 'clearance in protrusion', 'mm', ['min'], ZONES.facing, {
    ...occlusalCut,
    quantity: 'gap',
    takes: [],
    method: method(0.02, 0.025),
  }),
  entry('gauge.pass', 'gauge passes', 'none', ['value'], ZONES.occlusal, {
    hand: ['gauge'],
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    sized: true,
  }),
];

const leaning = { quantity: 'angle', cutting: 'lean', cutter: 'wall', steps: FROM_AXIAL } as const;

export const WALLS: readonly Entry[] = [
  entry('taper.wall', 'wall taper', 'deg', AROUND, ZONES.around, {
    ...leaning,
    sign: '+ converges occlusally, − is undercut',
    curve: 'taper.wall',
    along: true,
    method: ANGLES,
  }),
  entry('wall.lean', 'wall’s lean to the long axis', 'deg', AROUND, ZONES.around, {
    ...leaning,
    sign: '+ converges occlusally',
    curve: 'wall.lean',
    along: true,
    method: ANGLES,
  }),
  ...(
    [
      ['toc.faciolingual', 'convergence, facial to lingual'],
      ['toc.mesiodistal', 'convergence, mesial to distal'],
      ['toc.mean', 'convergence, all round'],
    ] as const
  ).map(([name, title]) =>
    entry(name, title, 'deg', ['mean'], ZONES.whole, {
      ...leaning,
      cutter: 'opposite walls',
      sign: '+ converges occlusally',
      curve: 'taper.wall',
      method: ANGLES,
    }),
  ),
  entry('draw.tilt', 'tilt of the path of insertion', 'deg', ['value'], ZONES.whole, {
    steps: FROM_AXIAL,
    curve: 'taper.wall',
    method: ANGLES,
  }),
  entry('taper.even', 'spread of the walls’ taper', 'deg', ['value'], ZONES.whole, {
    cutting: 'down',
    cutter: 'wall',
    steps: FROM_AXIAL,
    curve: 'taper.wall',
    method: ANGLES,
  }),
  entry('lean.whole', 'lean of all walls together', 'deg', ['value'], ZONES.whole, {
    cutting: 'down',
    cutter: 'wall',
    steps: FROM_AXIAL,
    curve: 'wall.lean',
    method: ANGLES,
  }),
  entry('undercut.depth', 'undercut', 'mm', ['max'], ZONES.wholeOrAxis, {
    quantity: 'damage',
    curve: 'taper.wall',
    steps: FROM_AXIAL,
    method: LENGTHS,
  }),
  entry('undercut.area', 'undercut area', 'mm2', ['value'], ZONES.wholeOrAxis, { hand: [], curve: 'taper.wall', steps: FROM_AXIAL }),
  entry('wall.height', 'wall height', 'mm', AROUND, ZONES.around, {
    quantity: 'height',
    hand: BY_PROBE,
    cutting: 'down',
    steps: FROM_AXIAL,
    curve: 'wall.height',
    along: true,
    method: LENGTHS,
  }),
  entry('wall.height.ratio', 'wall height per base width', 'ratio', ['value'], ZONES.whole, { cutting: 'down', steps: FROM_AXIAL }),
  entry('resistance.share', 'resistance form', 'share', ['min', 'mean'], ZONES.whole, { quantity: 'gap', method: method(0.04) }),
  entry('resistance.taper', 'limiting taper for resistance', 'deg', ['min'], ZONES.whole, {
    quantity: 'angle',
    hand: [],
    method: ANGLES,
  }),
];

export const FORM: readonly Entry[] = [
  entry('planes.facial', 'facial planes', 'count', ['count'], ZONES.whole, { steps: FROM_AXIAL }),
  entry('planes.facial.angle', 'angle between facial planes', 'deg', ['value'], ZONES.whole, {
    steps: FROM_AXIAL,
    method: method(1.5),
  }),
  entry('planes.facial.depth', 'facial reduction in the outer third', 'mm', ['min'], ZONES.whole, {
    quantity: 'depth',
    hand: BY_GAUGE,
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_AXIAL,
    method: LENGTHS,
  }),
  ...(['functional', 'nonfunctional'] as const).flatMap((role) => {
    const words = role === 'functional' ? 'functional' : 'non-functional';
    const cut = { steps: FROM_OCCLUSAL, cutter: 'bulk' } as const;
    return [
      entry(`bevel.${role}.angle`, `angle of the ${words} cusp bevel`, 'deg', ['value'], ZONES.whole, { ...cut, method: ANGLES }),
      entry(`bevel.${role}.width`, `width of the ${words} cusp bevel`, 'mm', ['value'], ZONES.whole, {
        ...cut,
        hand: BY_PROBE,
        cutting: 'up',
        method: method(0.02),
      }),
      entry(`bevel.${role}.depth`, `depth of the ${words} cusp bevel`, 'mm', ['value'], ZONES.whole, {
        ...cut,
        hand: BY_GAUGE,
        cutting: 'up',
        method: LENGTHS,
      }),
    ];
  }),
  entry('form.occlusal', 'angle to the tooth’s own occlusal form', 'deg', ['median'], ZONES.wholeOrCusps, {
    steps: FROM_OCCLUSAL,
    method: method(1.5),
  }),
  entry('form.occlusal.incline', 'share of the cusp’s incline kept', 'ratio', ['median'], ZONES.cusps, { steps: FROM_OCCLUSAL }),
  entry('form.occlusal.flattened', 'flattened cusps', 'count', ['count'], ZONES.whole, { steps: FROM_OCCLUSAL }),
  entry('form.lingual.height', 'height of the cingulum wall', 'mm', ['value'], ZONES.whole, {
    hand: BY_PROBE,
    steps: FROM_AXIAL,
    method: method(0.07),
  }),
  entry('form.lingual.angle', 'cingulum wall to the facial plane', 'deg', ['value'], ZONES.whole, {
    sign: '0 is parallel, + converges incisally',
    steps: FROM_AXIAL,
    method: method(0.5),
  }),
  entry('form.lingual.concavity', 'concavity of the lingual fossa', 'mm', ['value'], ZONES.whole, {
    steps: FROM_AXIAL,
    method: method(0.012),
  }),
  entry('form.lingual.ridge', 'lingual ridge kept', 'mm', ['value'], ZONES.whole, { steps: FROM_AXIAL, method: method(0.012) }),
  entry('incisal.angle', 'incisal corner lost', 'mm', ['value'], ZONES.proximal, {
    sign: '+ lost',
    cutting: 'up',
    steps: FROM_OCCLUSAL,
    method: LENGTHS,
  }),
  entry('form.cusp.canine', 'canine’s tip over its slopes', 'mm', ['value'], ZONES.whole, { steps: FROM_OCCLUSAL, method: LENGTHS }),
  entry('porcelain.unsupported', 'porcelain beyond the coping', 'mm', ['value'], ZONES.whole, {
    quantity: 'depth',
    hand: BY_GAUGE,
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    sized: true,
    method: method(0.035),
  }),
  entry('edge.sharp', 'length of sharp edges', 'mm', ['value'], ZONES.whole, { cutting: 'down', cutter: 'finisher' }),
  entry('surface.rough', 'surface roughness', 'mm', ['median', 'p95'], ZONES.surfaces, {
    hand: BY_EXPLORER,
    cutting: 'down',
    cutter: 'finisher',
  }),
  entry('contact.broken', 'gap to the neighbour', 'mm', ['min'], ZONES.proximal, {
    quantity: 'gap',
    hand: ['explorer', 'probe', 'eye'],
    cutting: 'up',
    cutter: 'axial',
    steps: FROM_AXIAL,
    method: method(0.02),
  }),
];
