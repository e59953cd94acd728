import { ANGLES, BY_PROBE, type Entry, entry, FROM_AXIAL, FROM_OCCLUSAL, LENGTHS } from './entry.ts';
import { ZONES } from './zones.ts';

/** The preparation against its arch: the neighbours' cusps and the opposing teeth. */
export const ARCH: readonly Entry[] = [
  entry('line.cusps', 'cusp’s tip to the line of the neighbours’ cusps', 'mm', ['value'], ZONES.cusps, {
    sign: '+ facial of the line, − lingual of it',
    steps: FROM_OCCLUSAL,
    method: LENGTHS,
  }),
  entry('line.cusps.bevel', 'functional bevel’s edge to the line of the neighbours’ cusps', 'mm', ['value'], ZONES.whole, {
    sign: '+ facial of the line, − lingual of it',
    hand: BY_PROBE,
    steps: FROM_OCCLUSAL,
    method: LENGTHS,
  }),
  entry('bevel.opposing', 'functional bevel to the opposing inclines', 'deg', ['value'], ZONES.whole, {
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    method: ANGLES,
  }),
  entry('plane.incisal', 'incisal cut to the opposing tooth’s long axis', 'deg', ['value'], ZONES.whole, {
    sign: '90 is square, more falls to lingual',
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    method: ANGLES,
  }),
  entry('gauge.catch', 'gauge goes in until it touches', 'mm', ['value'], ZONES.faciolingual, {
    hand: ['gauge'],
    cutting: 'up',
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    sized: true,
  }),
  entry('abutments.parallel', 'angle between the paths of two abutments', 'deg', ['value'], ZONES.whole, {
    sign: 'azimuth: where the other abutment’s path leans to',
    cutter: 'wall',
    steps: FROM_AXIAL,
  }),
  entry('cusp.incline', 'prepared cusp’s incline to the occlusal plane', 'deg', ['value'], ZONES.cusps, {
    cutter: 'bulk',
    steps: FROM_OCCLUSAL,
    method: ANGLES,
  }),
];
