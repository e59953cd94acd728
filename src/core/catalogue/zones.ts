import { LINE_ANGLES, SIDES } from '../linalg/sectors.ts';
import { MARGIN_FORMS } from './terms.ts';

const SECTORS = [...SIDES, ...LINE_ANGLES];
const THIRDS = ['gingival third', 'mid third', 'outer third'];
const PROXIMAL = ['mesial', 'distal'];
const BOXES = PROXIMAL.map((side) => `box ${side}`);
const combine = (first: readonly string[], second: readonly string[]): string[] => first.flatMap((a) => second.map((b) => `${a} ${b}`));
/** The second of two on one side carries its number. */
const GROOVES = SIDES.flatMap((side) => [side, `${side} 2`]);
const PINS = ['pin', 'pin 2', 'pin 3'];
const CUSP = /^[A-Z]{1,3}$/;

/** Words in a rubric that stand for whichever cusps of that role the tooth has. */
export const CUSP_GROUPS = { 'functional cusps': 'functional', 'non-functional cusps': 'non-functional', 'all cusps': 'any' } as const;

/** Words in a rubric that stand for whichever places the preparation turned out to have: all of them, or all of its boxes. */
export const FOUND_PLACES = ['every place', 'every box'] as const;

/** Whether a rubric's word for a place stands for several of them; a critical error is looked for at one. */
export const standsForSeveral = (zone: string | null): boolean =>
  zone !== null && (zone in CUSP_GROUPS || FOUND_PLACES.some((p) => p === zone));

/**
 * The places at which a reading is given. `null` in the list means that the whole preparation is one of them; `cusps` that
 * a cusp may be named as the master names it; `named` that the master's own names of grooves count.
 */
export interface ZoneSet {
  readonly list: readonly (string | null)[];
  readonly cusps?: true;
  readonly named?: true;
}

export const ZONES = {
  whole: { list: [null] },
  wholeOrAxis: { list: [null, 'long axis'] },
  around: { list: [null, ...SECTORS] },
  occlusal: { list: ['central groove', 'mesial marginal ridge', 'distal marginal ridge', 'edge'], cusps: true },
  facing: { list: ['central groove', 'mesial marginal ridge', 'distal marginal ridge', 'edge', 'lingual fossa', 'cingulum'], cusps: true },
  cusps: { list: [], cusps: true },
  wholeOrCusps: { list: [null], cusps: true },
  thirds: { list: combine(SECTORS, THIRDS) },
  sites: {
    list: [...combine(['mesial', 'middle', 'distal'], ['functional', 'groove', 'non-functional']), ...combine(['facial'], THIRDS)],
  },
  forms: { list: MARGIN_FORMS },
  surfaces: { list: ['wall', 'floor'] },
  proximal: { list: PROXIMAL },
  sides: { list: SIDES },
  boxes: { list: BOXES },
  wholeOrBoxes: { list: [null, ...BOXES] },
  boxThirds: { list: combine(BOXES, ['facial third', 'middle third', 'lingual third']) },
  boxMargins: { list: combine(BOXES, ['facial', 'lingual', 'gingival']) },
  boxCorners: { list: combine(BOXES, ['facial', 'lingual']) },
  boxPairs: { list: [null, 'box mesial box distal', ...combine(BOXES, ['path'])] },
  boxEnds: { list: combine(BOXES, ['floor', 'occlusal']) },
  gingivalFloors: { list: combine(PROXIMAL, ['floor']) },
  walls: { list: [null, ...SIDES, ...combine(['axial'], PROXIMAL), ...combine(BOXES, ['facial', 'lingual'])] },
  wallPairs: { list: ['faciolingual', 'mesiodistal', 'axial', ...BOXES] },
  grooves: { list: [null], named: true },
  guides: { list: [null, ...GROOVES] },
  faciolingual: { list: ['facial', 'lingual'] },
  guidePairs: { list: [null, ...combine(GROOVES, GROOVES), ...combine(GROOVES, ['draw'])] },
  pins: { list: [null, ...PINS] },
  pinPairs: { list: [null, ...combine(PINS, ['draw']), ...combine(PINS, PINS), ...combine(PINS, GROOVES), ...combine(GROOVES, PINS)] },
} as const satisfies Record<string, ZoneSet>;

/** Whether a rubric may ask for this place: a zone, or a word for several zones. */
export function allowsZone(set: ZoneSet, zone: string | null): boolean {
  if (set.list.includes(zone)) return true;
  if (zone === null) return false;
  if (zone in CUSP_GROUPS) return set.cusps === true;
  if (zone === 'every place') return set.named === true || set.list.some((z) => z !== null);
  if (zone === 'every box') return set.list.some((z) => z?.startsWith('box '));
  if (set.cusps && CUSP.test(zone)) return true;
  return set.named === true && /^[a-z][a-z ]*$/.test(zone);
}

/** What a rubric may write for the place, for the message about one that it may not. */
export function zoneChoices(set: ZoneSet): string[] {
  return [
    ...set.list.map((z) => z ?? 'null (the whole preparation)'),
    ...(set.cusps ? [...Object.keys(CUSP_GROUPS), 'a cusp by its name'] : []),
    ...(set.named ? ['a groove by its name'] : []),
  ];
}
