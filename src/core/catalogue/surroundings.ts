import { type Entry, entry, LENGTHS } from './entry.ts';
import type { HandMethod } from './terms.ts';
import { ZONES } from './zones.ts';

const BY_EXPLORER: readonly HandMethod[] = ['explorer', 'eye', 'probe'];
const ALWAYS = ['occlusal', 'axial', 'outline', 'box'] as const;

const damage = (name: string, title: string): Entry[] => [
  entry(name, title, 'mm', ['max'], ZONES.whole, { quantity: 'damage', hand: BY_EXPLORER, steps: ALWAYS, method: LENGTHS }),
  entry(`${name}.area`, `${title}, area`, 'mm2', ['value'], ZONES.whole, { hand: ['eye'], steps: ALWAYS }),
  entry(`${name}.volume`, `${title}, volume`, 'mm3', ['value'], ZONES.whole, { hand: [], steps: ALWAYS }),
];

export const SURROUNDINGS: readonly Entry[] = [
  ...damage('neighbour.mesial', 'damage to the mesial neighbour'),
  ...damage('neighbour.distal', 'damage to the distal neighbour'),
  ...damage('gingiva.contact', 'loss on the gingiva'),
  entry('pulp.distance', 'distance to the pulp', 'mm', ['min'], ZONES.whole, {
    quantity: 'gap',
    hand: [],
    cutting: 'down',
    steps: ALWAYS,
  }),
  entry('caries.left', 'caries left', 'mm3', ['value'], ZONES.whole, { hand: ['eye'], cutting: 'down', steps: ['outline', 'box'] }),
  entry('caries.left.depth', 'thickness of the caries left', 'mm', ['max'], ZONES.whole, {
    quantity: 'damage',
    hand: ['eye'],
    cutting: 'down',
    steps: ['outline', 'box'],
  }),
];
