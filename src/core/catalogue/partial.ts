import { ANGLES, type Entry, entry, LENGTHS, method } from './entry.ts';
import { ZONES } from './zones.ts';

export const PARTIAL: readonly Entry[] = [
  entry('groove.depth', 'depth of the groove', 'mm', ['median'], ZONES.guides, {
    hand: ['probe', 'eye'],
    cutting: 'up',
    cutter: 'slot',
    method: LENGTHS,
  }),
  entry('groove.width', 'width of the groove', 'mm', ['median'], ZONES.guides, {
    hand: ['probe', 'eye'],
    cutting: 'up',
    cutter: 'slot',
    method: LENGTHS,
  }),
  entry('groove.parallel', 'angle between grooves, and to the path of insertion', 'deg', ['value'], ZONES.guidePairs, {
    method: ANGLES,
  }),
  entry('groove.place.finish', 'groove’s foot over the finish line', 'mm', ['value'], ZONES.guides, {
    hand: ['probe', 'eye'],
    cutting: 'down',
    cutter: 'slot',
    method: method(0.03),
  }),
  entry('groove.place.edge', 'slice left in front of the groove', 'mm', ['value'], ZONES.guides, {
    hand: ['probe', 'eye'],
    cutting: 'down',
    cutter: 'slot',
    method: method(0.05),
  }),
  entry('groove.incisal.width', 'width of the incisal groove', 'mm', ['median'], ZONES.whole, {
    hand: ['probe', 'eye'],
    cutting: 'up',
    cutter: 'slot',
    method: method(0.06),
  }),
  entry('groove.incisal.joins', 'incisal groove from groove to groove', 'share', ['share'], ZONES.whole, { cutting: 'up', cutter: 'slot' }),
  entry('plate.thickness', 'thickness of the facial plate', 'mm', ['min', 'median'], ZONES.whole, {
    quantity: 'depth',
    hand: ['gauge', 'eye'],
    cutting: 'down',
    cutter: 'slot',
    method: method(0.1),
  }),
  entry('cingulum.recess', 'pinhole’s middle to the finish line', 'mm', ['value'], ZONES.pins, {
    hand: ['probe', 'eye'],
    cutting: 'down',
    cutter: 'slot',
    method: LENGTHS,
  }),
  entry('pin.depth', 'depth of the pinhole', 'mm', ['value'], ZONES.pins, {
    hand: ['probe', 'eye'],
    cutting: 'up',
    cutter: 'slot',
    method: LENGTHS,
  }),
  entry('pin.parallel', 'angle of the pinhole to the path and to grooves', 'deg', ['value'], ZONES.pinPairs),
  entry('slice.angle', 'lean of the proximal slice', 'deg', ['median'], ZONES.proximal, {
    sign: '+ converges occlusally',
    cutting: 'lean',
    cutter: 'wall',
    method: ANGLES,
  }),
  entry('bevel.width', 'width of the margin’s bevel', 'mm', ['median'], ZONES.sides, {
    hand: ['probe', 'eye'],
    cutting: 'up',
    cutter: 'finisher',
    method: method(0.02),
  }),
  entry('bevel.angle', 'angle of the margin’s bevel', 'deg', ['median'], ZONES.sides, { method: method(1) }),
  entry('facial.extension', 'finish line seen from facial', 'mm', ['value', 'share'], ZONES.whole, { hand: ['probe', 'eye'] }),
];
