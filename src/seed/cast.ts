import type { Hand } from '#core/simulate/hand.ts';

/** The made-up people of Harbour Lane School of Dentistry. */
export const STAFF = [
  { id: 'D1', role: 'director', name: 'Maren Holt', signIn: 'maren' },
  { id: 'I1', role: 'instructor', name: 'Tobias Fenwick', signIn: 'tobias' },
  { id: 'I2', role: 'instructor', name: 'Ines Caldera', signIn: 'ines' },
  { id: 'I3', role: 'instructor', name: 'Oke Brandvik', signIn: 'oke' },
  { id: 'I4', role: 'instructor', name: 'Ruth Amsel', signIn: 'ruth' },
  { id: 'A1', role: 'assistant', name: 'Piet Lorne', signIn: 'piet' },
] as const;

const NAMES = [
  'Ada Quill',
  'Bram Oster',
  'Cleo Marsh',
  'Dario Venn',
  'Elin Thorsby',
  'Farid Noor',
  'Greta Pohl',
  'Hugo Lind',
  'Isla Kerr',
  'Jonas Wick',
  'Kaya Demir',
  'Leo Sandoval',
  'Mina Okafor',
  'Nils Rehn',
  'Olga Petrak',
  'Paul Escher',
  'Quinn Arden',
  'Rosa Bellini',
  'Sami Halonen',
  'Tara Voss',
  'Umar Siddik',
  'Vera Lund',
  'Wim Castel',
  'Xenia Roth',
  'Yara Haddad',
  'Zeno Blum',
  'Anouk Perrin',
  'Björn Falk',
  'Carla Nunes',
  'Dina Marek',
  'Emil Strand',
  'Fay Winslow',
  'Gus Tallis',
  'Hana Sato',
  'Ivo Kral',
  'June Abbot',
];

export const STUDENTS = NAMES.map((name, i) => ({
  id: `H${String(i + 1).padStart(2, '0')}`,
  name,
  signIn: `h${String(i + 1).padStart(2, '0')}`,
  bench: `B${Math.floor(i / 12) + 1}-${String((i % 12) + 1).padStart(2, '0')}`,
}));

/** One over-tapers distally, one keeps touching the mesial neighbour, one improves fast, one stands still; the rest in between. */
export const HANDS: Readonly<Record<string, Hand>> = {
  H01: { seed: 1, skill: 0.75, learning: 0.25, habits: {} },
  H02: { seed: 2, skill: 0.45, learning: 0.3, habits: { overTaperDistal: 0.95 } },
  H03: { seed: 3, skill: 0.55, learning: 0.25, habits: { touchesMesial: 0.95 } },
  H04: { seed: 4, skill: 0.1, learning: 0.65, habits: { wideMargin: 0.9 } },
  H05: { seed: 5, skill: 0.35, learning: 0.02, habits: { shallowCusps: 0.9 } },
  H06: { seed: 6, skill: 0.85, learning: 0.2, habits: {} },
};

/** Signs in everyone of the demo. Not a secret: the data are made up. */
export const DEMO_PASSWORD = 'harbour-lane';

export const SITTINGS = [
  { id: 'crown-16-w1', title: 'Crown practice, week 1', heldOn: '2026-10-19' },
  { id: 'crown-16-w2', title: 'Crown practice, week 2', heldOn: '2026-10-26' },
  { id: 'crown-16-w3', title: 'Crown practice, week 3', heldOn: '2026-11-02' },
] as const;

/** Which scans the demo brings: everyone's newest, and two weeks of history for the four with a story. */
export const SCANS: readonly { readonly student: string; readonly sitting: number }[] = [
  ...['H02', 'H03', 'H04', 'H05'].flatMap((student) => [0, 1].map((sitting) => ({ student, sitting }))),
  ...Object.keys(HANDS).map((student) => ({ student, sitting: 2 })),
];
