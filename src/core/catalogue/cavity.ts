import { ANGLES, BY_PROBE, type Entry, entry, LENGTHS, method } from './entry.ts';
import { ZONES } from './zones.ts';

const FROM_OUTLINE = ['outline', 'box'] as const;
const FROM_BOX = ['box'] as const;
const CAVOSURFACE = { curve: 'cavosurface', steps: FROM_BOX } as const;

export const OUTLINE: readonly Entry[] = [
  entry('outline.isthmus', 'isthmus', 'mm', ['min'], ZONES.whole, {
    hand: BY_PROBE,
    cutting: 'up',
    cutter: 'floor',
    takes: [{ reading: 'outline.cusp', per: 0.5 }],
    steps: FROM_OUTLINE,
    method: LENGTHS,
  }),
  entry('outline.isthmus.ratio', 'isthmus per distance of the cusp tips', 'ratio', ['value'], ZONES.whole, {
    cutting: 'up',
    cutter: 'floor',
    steps: FROM_OUTLINE,
  }),
  entry('outline.dovetail', 'outline’s end per isthmus', 'ratio', ['value'], ZONES.whole, {
    cutting: 'up',
    cutter: 'floor',
    steps: FROM_OUTLINE,
  }),
  entry('outline.coverage', 'share of the groove inside the outline', 'share', ['share'], ZONES.grooves, {
    cutting: 'up',
    cutter: 'floor',
    steps: FROM_OUTLINE,
  }),
  entry('outline.entered', 'secondary groove entered', 'mm', ['value'], ZONES.grooves, {
    hand: BY_PROBE,
    cutting: 'up',
    cutter: 'floor',
    steps: FROM_OUTLINE,
    method: LENGTHS,
  }),
  ...(['mesial', 'distal'] as const).map((side) =>
    entry(`outline.ridge.${side}`, `${side} marginal ridge left`, 'mm', ['min'], ZONES.whole, {
      hand: BY_PROBE,
      cutting: 'down',
      cutter: 'floor',
      steps: FROM_OUTLINE,
      method: LENGTHS,
    }),
  ),
  entry('outline.cusp', 'margin to cusp tip', 'mm', ['min'], ZONES.cusps, {
    quantity: 'gap',
    hand: BY_PROBE,
    cutting: 'down',
    cutter: 'floor',
    steps: FROM_OUTLINE,
    method: LENGTHS,
  }),
  entry('outline.oblique', 'oblique ridge crossed', 'mm', ['value'], ZONES.whole, {
    hand: BY_PROBE,
    cutting: 'up',
    steps: FROM_OUTLINE,
    method: LENGTHS,
  }),
  entry('outline.smooth.radius', 'tightest radius of the outline', 'mm', ['min'], ZONES.whole, { steps: FROM_OUTLINE }),
  entry('outline.smooth.corners', 'corners of the outline', 'count', ['count'], ZONES.whole, { steps: FROM_OUTLINE, cutting: 'down' }),
  entry('outline.smooth.wander', 'wander of the outline', 'mm', ['value'], ZONES.whole, { steps: FROM_OUTLINE, cutting: 'down' }),
  entry('outline.step', 'tightest corner between isthmus and box', 'mm', ['min'], ZONES.wholeOrBoxes, {
    quantity: 'angle',
    steps: FROM_BOX,
    cutting: 'up',
  }),
  entry('instrument.fit', 'share of the floor that a condenser reaches', 'share', ['share'], ZONES.whole, { sized: true }),
  entry('instrument.widest', 'widest condenser that goes in', 'mm', ['max'], ZONES.whole),
  ...(['condenser', 'hatchet'] as const).map((what) =>
    entry(`instrument.box.${what}`, `widest ${what} that reaches the box’s floor`, 'mm', ['max'], ZONES.boxes, {
      cutting: 'up',
      steps: FROM_BOX,
      method: LENGTHS,
    }),
  ),
  entry('reversecurve.radius', 'radius of the reverse curve', 'mm', ['min'], ZONES.boxes, { quantity: 'angle', steps: FROM_BOX }),
  entry('reversecurve.exit', 'exit angle at the box’s facial margin', 'deg', ['mean'], ZONES.boxes, {
    ...CAVOSURFACE,
    method: ANGLES,
  }),
];

export const INSIDE: readonly Entry[] = [
  entry('depth.pulpal', 'pulpal depth', 'mm', ['p05', 'median', 'p95'], ZONES.whole, {
    quantity: 'depth',
    hand: BY_PROBE,
    cutting: 'up',
    cutter: 'floor',
    takes: [{ reading: 'pulp.distance', per: 1 }],
    steps: FROM_OUTLINE,
    colours: 'occlusal',
    method: LENGTHS,
  }),
  entry('depth.pulpal.area', 'area of the pulpal floor', 'mm2', ['value'], ZONES.whole, { hand: [], steps: FROM_OUTLINE }),
  entry('floor.pulpal.tilt', 'tilt of the pulpal floor', 'deg', ['value'], ZONES.whole, {
    steps: FROM_OUTLINE,
    cutter: 'floor',
    method: ANGLES,
  }),
  entry('floor.pulpal.flat', 'unevenness of the pulpal floor', 'mm', ['value'], ZONES.whole, {
    cutting: 'down',
    cutter: 'floor',
    steps: FROM_OUTLINE,
  }),
  entry('floor.cusps', 'tilt of the pulpal floor to the plane of the cusps', 'deg', ['value'], ZONES.whole, {
    steps: FROM_OUTLINE,
    cutter: 'floor',
    method: ANGLES,
  }),
  entry('floor.dentine', 'pulpal floor under the dentine’s surface', 'mm', ['p05', 'median'], ZONES.whole, {
    quantity: 'gap',
    sign: '+ in dentine, − in enamel',
    cutting: 'up',
    cutter: 'floor',
    takes: [{ reading: 'pulp.distance', per: 1 }],
    steps: FROM_OUTLINE,
    method: LENGTHS,
  }),
  entry('floor.gingival.tilt', 'tilt of the gingival floor', 'deg', ['value'], ZONES.gingivalFloors, {
    steps: FROM_BOX,
    method: ANGLES,
  }),
  entry('floor.gingival.flat', 'unevenness of the gingival floor', 'mm', ['value'], ZONES.gingivalFloors, {
    cutting: 'down',
    cutter: 'trimmer',
    steps: FROM_BOX,
  }),
  entry('wall.angle', 'wall angle', 'deg', ['mean'], ZONES.walls, {
    sign: '+ converges occlusally, − diverges',
    steps: FROM_OUTLINE,
    method: ANGLES,
  }),
  entry('wall.rough', 'roughness of the cavity’s walls', 'mm', ['median', 'p95'], ZONES.wholeOrBoxes, {
    quantity: 'angle',
    hand: ['explorer', 'eye'],
    cutting: 'down',
    cutter: 'trimmer',
    steps: FROM_BOX,
  }),
  entry('divergence', 'opening between opposite walls', 'deg', ['value'], ZONES.wallPairs, {
    sign: '+ opens occlusally, − is undercut',
    cutting: 'lean',
    steps: FROM_BOX,
    method: ANGLES,
  }),
  entry('cavosurface', 'cavosurface angle', 'deg', ['min', 'p05', 'median', 'p95', 'max', 'share'], ZONES.whole, {
    ...CAVOSURFACE,
    quantity: 'angle',
    along: true,
    method: ANGLES,
  }),
  entry('box.axialdepth', 'width of the gingival floor', 'mm', ['value'], ZONES.boxThirds, {
    hand: BY_PROBE,
    cutting: 'up',
    cutter: 'slot',
    steps: FROM_BOX,
    method: LENGTHS,
  }),
  entry('box.height', 'height of the box', 'mm', ['value'], ZONES.boxes, {
    hand: BY_PROBE,
    cutting: 'up',
    cutter: 'slot',
    steps: FROM_BOX,
    method: LENGTHS,
  }),
  entry('box.width', 'width of the box', 'mm', ['value'], ZONES.boxEnds, {
    hand: BY_PROBE,
    cutting: 'up',
    steps: FROM_BOX,
    // The corners of a box are rounded, and its walls are read up to them.
    method: method(0.025),
  }),
  entry('box.corners', 'inside angle of the box', 'deg', ['value'], ZONES.boxCorners, { steps: FROM_BOX, method: method(1.5) }),
  entry('box.parallel', 'angle between boxes, and to the path of insertion', 'deg', ['value'], ZONES.boxPairs, {
    steps: FROM_BOX,
    method: ANGLES,
  }),
  entry('axial.lesion', 'axial wall beyond the lesion', 'mm', ['value'], ZONES.wholeOrBoxes, {
    sign: '+ wall beyond the lesion, − decay behind the wall',
    cutting: 'up',
    cutter: 'slot',
    takes: [{ reading: 'pulp.distance', per: 1 }],
    steps: FROM_BOX,
    method: LENGTHS,
  }),
  ...(['gingival', 'facial'] as const).flatMap((side) => [
    entry(`bevel.${side}.width`, `width of the ${side} margin’s bevel`, 'mm', ['value'], ZONES.boxes, {
      hand: ['probe', 'eye'],
      cutting: 'up',
      cutter: 'finisher',
      steps: FROM_BOX,
      // A facial wall is short, and still bends where its bevel begins.
      method: method(side === 'facial' ? 0.06 : 0.03),
    }),
    entry(`bevel.${side}.angle`, `angle of the ${side} margin’s bevel`, 'deg', ['value'], ZONES.boxes, {
      steps: FROM_BOX,
      method: method(2),
    }),
  ]),
  entry('box.gap.even', 'spread of the gap to the neighbour', 'mm', ['value'], ZONES.boxMargins, {
    hand: ['explorer', 'probe', 'eye'],
    cutting: 'neither',
    steps: FROM_BOX,
    curve: 'clearance',
    method: LENGTHS,
  }),
  ...(['facial', 'lingual', 'gingival'] as const).map((side) =>
    entry(`box.clearance.${side}`, `gap to the neighbour, ${side}`, 'mm', ['min'], ZONES.boxes, {
      quantity: 'gap',
      hand: ['explorer', 'probe', 'eye'],
      cutting: 'up',
      cutter: 'trimmer',
      takes: side === 'gingival' ? [] : [{ reading: 'box.width', per: -1 }],
      steps: FROM_BOX,
      curve: 'clearance',
      method: LENGTHS,
    }),
  ),
  entry('box.axialform', 'axial wall against the outer surface', 'mm', ['value'], ZONES.boxes, { steps: FROM_BOX, method: LENGTHS }),
  ...(['radius', 'bevel'] as const).map((what) =>
    entry(`axiopulpal.${what}`, `axiopulpal line angle, ${what}`, 'mm', ['value'], ZONES.boxes, {
      cutting: 'up',
      cutter: 'trimmer',
      steps: FROM_BOX,
      method: LENGTHS,
    }),
  ),
  entry('retention.depth', 'retentive undercut', 'mm', ['max'], ZONES.whole, {
    quantity: 'damage',
    hand: ['explorer', 'eye'],
    method: LENGTHS,
  }),
  entry('retention.volume', 'volume of retentive undercut', 'mm3', ['value'], ZONES.whole, { hand: [] }),
  entry('enamel.undermined', 'enamel without dentine beneath', 'mm2', ['value'], ZONES.whole, { cutting: 'down', cutter: 'trimmer' }),
];
