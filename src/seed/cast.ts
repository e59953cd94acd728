import type { Step } from '#core/catalogue/terms.ts';
import type { Hand, Task } from '#core/simulate/hand.ts';
import { CLEAN_PREFORMED } from '#core/simulate/preformed/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import type { Workshop } from '#core/simulate/simulate.ts';
import type { SolidKernel } from '#core/simulate/solids.ts';
import type { CariesRecipe } from '#core/simulate/tooth/inner.ts';
import { AIMS } from './aims.ts';

/** The demo's course at Harbour Lane School of Dentistry. */
export const COURSE = {
  id: 'preclinical-2-2026',
  name: 'Preclinical Restorative Practice 2',
  term: 'autumn 2026',
  startsOn: '2026-10-12',
  endsOn: '2026-12-18',
} as const;

/** Its made-up people. */
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

/** A student's hand; students without a given habit get one from the middle of the range, each another. */
export const handOf = (student: string): Hand => {
  const n = Number(student.replace(/\D/g, '')) || 1;
  return HANDS[student] ?? { seed: n, skill: 0.3 + (0.5 * ((n * 7) % 11)) / 10, learning: 0.15 + (0.25 * ((n * 5) % 7)) / 6, habits: {} };
};

/** Password of all demo people. Not a secret: the data are made up. */
export const DEMO_PASSWORD = 'harbour-lane';

export interface Exercise {
  readonly id: string;
  readonly title: string;
  readonly tooth: string;
  readonly task: Task;
  readonly rubric: string;
  readonly master: string;
  readonly caries?: CariesRecipe;
}

const aimedAt = (rubric: keyof typeof AIMS): Pick<Exercise, 'tooth' | 'task' | 'rubric'> => ({ ...AIMS[rubric], rubric });

export const EXERCISES: readonly Exercise[] = [
  {
    id: 'crown-16',
    title: 'Zirconia crown on 16',
    ...aimedAt('zirconia-posterior-practice'),
    master: 'Upper right first molar, series H',
  },
  {
    id: 'class2-34',
    title: 'Class II DO amalgam on 34',
    ...aimedAt('class2-amalgam-minimal'),
    master: 'Lower left first premolar, series H',
  },
  {
    id: 'crown-22',
    title: 'Anterior all-ceramic crown on 22',
    ...aimedAt('anterior-ceramic-practice'),
    master: 'Upper left lateral incisor, series H',
  },
  {
    id: 'class1-37',
    title: 'Class I amalgam on 37',
    ...aimedAt('class1-amalgam-practice'),
    caries: { site: 'occlusal', depth: 1.6, width: 1 },
    master: 'Lower left second molar, series H',
  },
  {
    id: 'crown-25',
    title: 'Metal-ceramic crown on 25',
    ...aimedAt('metal-ceramic-facial-practice'),
    master: 'Upper left second premolar, series H',
  },
  {
    id: 'onlay-46',
    title: 'Ceramic onlay on 46',
    ...aimedAt('onlay-ceramic-practice'),
    master: 'Lower right first molar, series H',
  },
  {
    id: 'three-quarter-26',
    title: 'Three-quarter crown on 26',
    ...aimedAt('three-quarter-posterior-practice'),
    master: 'Upper left first molar, series H',
  },
];

/** Seed and options of an exercise's workshop, so that each run opens the same typodont. */
export const workshopOptions = (e: Exercise, kernel: SolidKernel): ConstructorParameters<typeof Workshop> => [
  e.tooth,
  11,
  kernel,
  { name: e.master, caries: e.caries ?? null },
];

/** Six weeks; the last of them is the one on the bench today. */
export const SITTINGS = [
  { id: 'crown-16-w1', exercise: 'crown-16', title: 'Crown practice, week 1', heldOn: '2026-10-19' },
  { id: 'crown-16-w2', exercise: 'crown-16', title: 'Crown practice, week 2', heldOn: '2026-10-26' },
  { id: 'class1-37-w3', exercise: 'class1-37', title: 'First cavity, week 3', heldOn: '2026-11-02' },
  { id: 'crown-22-w4', exercise: 'crown-22', title: 'Anterior crown, week 4', heldOn: '2026-11-09' },
  { id: 'crown-25-w5', exercise: 'crown-25', title: 'Metal-ceramic crown, week 5', heldOn: '2026-11-16' },
  { id: 'three-quarter-26-w6', exercise: 'three-quarter-26', title: 'Three-quarter crown, week 6', heldOn: '2026-11-23' },
  { id: 'onlay-46-w6', exercise: 'onlay-46', title: 'Ceramic onlay, week 6', heldOn: '2026-11-23' },
  { id: 'class2-34-w6', exercise: 'class2-34', title: 'Class II practice, week 6', heldOn: '2026-11-23' },
  { id: 'crown-16-w6', exercise: 'crown-16', title: 'Crown practice, week 6', heldOn: '2026-11-24' },
] as const;

/** Scans of the demo, newest sitting first, because that is what one sees first. */
export const SCANS: readonly {
  readonly student: string;
  readonly sitting: string;
  readonly attempt: number;
  /** For an intermediate step: the parts cut by then. */
  readonly onTheWay?: { readonly step: Step; readonly preparation: Preparation };
}[] = [
  ...Object.keys(HANDS).map((student) => ({ student, sitting: 'crown-16-w6', attempt: 2 })),
  {
    student: 'H09',
    sitting: 'crown-16-w6',
    attempt: 0,
    onTheWay: {
      step: 'occlusal',
      preparation: { ...CLEAN_PREFORMED, occlusal: 0.85, mesial: null, distal: null },
    },
  },
  ...['H01', 'H02', 'H04', 'H05'].map((student) => ({ student, sitting: 'class2-34-w6', attempt: 1 })),
  ...['H01', 'H05'].map((student) => ({ student, sitting: 'onlay-46-w6', attempt: 1 })),
  { student: 'H06', sitting: 'three-quarter-26-w6', attempt: 1 },
  ...['H02', 'H03', 'H04', 'H05'].flatMap((student) => [
    { student, sitting: 'crown-16-w1', attempt: 0 },
    { student, sitting: 'crown-16-w2', attempt: 1 },
  ]),
  ...['H01', 'H03'].map((student) => ({ student, sitting: 'crown-22-w4', attempt: 1 })),
  ...['H01', 'H04'].map((student) => ({ student, sitting: 'class1-37-w3', attempt: 1 })),
  ...['H02', 'H06'].map((student) => ({ student, sitting: 'crown-25-w5', attempt: 1 })),
];
