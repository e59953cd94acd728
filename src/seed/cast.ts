import type { CariesRecipe } from '#core/anatomy/inner.ts';
import type { Step } from '#core/catalogue/terms.ts';
import type { KindName } from '#core/kinds/kinds.ts';
import { STEPS_OF } from '#core/kinds/steps.ts';
import type { Hand, Task } from '#core/simulate/hand.ts';
import { CLEAN_PREFORMED } from '#core/simulate/preformed/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import type { Workshop } from '#core/simulate/simulate.ts';
import type { SolidKernel } from '#core/simulate/solids.ts';
import { AIMS } from './aims.ts';

export const SCHOOL = 'Harbour Lane School of Dentistry';
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

/** One over-tapers distally, one keeps touching the mesial neighbour, one improves fast, one stands still, one leaves the margin narrow distally every time; the rest in between. */
export const HANDS: Readonly<Record<string, Hand>> = {
  H01: { seed: 1, skill: 0.75, learning: 0.25, habits: {} },
  H02: { seed: 2, skill: 0.45, learning: 0.3, habits: { overTaperDistal: 0.95 } },
  H03: { seed: 3, skill: 0.55, learning: 0.25, habits: { touchesMesial: 0.95 } },
  H04: { seed: 4, skill: 0.1, learning: 0.65, habits: { wideMargin: 0.9 } },
  H05: { seed: 5, skill: 0.35, learning: 0.02, habits: { shallowCusps: 0.9 } },
  H06: { seed: 6, skill: 0.85, learning: 0.2, habits: {} },
  H07: { seed: 7, skill: 0.6, learning: 0.04, habits: { narrowDistal: 0.9 } },
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
  /** Null where the work is judged by hand, word and eye alone. */
  readonly task: Task | null;
  readonly kind: KindName;
  readonly rubric: string;
  readonly master: string;
  readonly caries?: CariesRecipe;
  /** Time allowed, and the steps at which it may be shown on the way. */
  readonly minutes: number;
  readonly steps: readonly Step[];
}

const JAW = {
  '1': 'Upper right',
  '2': 'Upper left',
  '3': 'Lower left',
  '4': 'Lower right',
  '5': 'Upper right',
  '6': 'Upper left',
  '7': 'Lower left',
  '8': 'Lower right',
};
const PERMANENT = ['central incisor', 'lateral incisor', 'canine', 'first premolar', 'second premolar', 'first molar', 'second molar'];
const PRIMARY = ['primary central incisor', 'primary lateral incisor', 'primary canine', 'primary first molar', 'primary second molar'];
const masterOf = (tooth: string): string => {
  const quadrant = tooth[0] as keyof typeof JAW;
  return `${JAW[quadrant]} ${(quadrant < '5' ? PERMANENT : PRIMARY)[Number(tooth[1]) - 1]}, series H`;
};

/** An exercise whose clean work is the rubric's aim. */
const exercise = (id: string, title: string, rubric: keyof typeof AIMS, minutes: number, caries?: CariesRecipe): Exercise => {
  const { tooth, task } = AIMS[rubric];
  const steps = 'boxes' in task.aim && task.aim.boxes.length === 0 ? (['outline', 'final'] as const) : STEPS_OF[task.kind];
  return {
    id,
    title: `${title} on ${tooth}`,
    tooth,
    task,
    kind: task.kind,
    rubric,
    master: masterOf(tooth),
    minutes,
    steps,
    ...(caries ? { caries } : {}),
  };
};

/** An exercise without a scan: nothing of it can be read yet. */
const byEye = (id: string, title: string, tooth: string, kind: 'preformed' | 'restoration', rubric: string, minutes: number): Exercise => ({
  id,
  title: `${title} on ${tooth}`,
  tooth,
  task: null,
  kind,
  rubric,
  master: masterOf(tooth),
  minutes,
  steps: STEPS_OF[kind],
});

/** One exercise for every rubric, on a tooth that suits it. */
export const EXERCISES: readonly Exercise[] = [
  exercise('crown-16', 'Zirconia crown', 'zirconia-posterior-practice', 90),
  exercise('class2-24', 'Class II DO amalgam', 'class2-amalgam-minimal', 75),
  exercise('crown-22', 'Anterior all-ceramic crown', 'anterior-ceramic-practice', 90),
  exercise('class1-37', 'Class I amalgam', 'class1-amalgam-practice', 45, { site: 'occlusal', depth: 1.35, width: 1 }),
  exercise('crown-25', 'Metal-ceramic crown, facial porcelain,', 'metal-ceramic-facial-practice', 100),
  exercise('onlay-46', 'Ceramic onlay', 'onlay-ceramic-practice', 100),
  exercise('three-quarter-26', 'Three-quarter crown', 'three-quarter-posterior-practice', 110),
  exercise('metal-46', 'Full metal crown', 'metal-crown-practice', 80),
  exercise('metal-46-exam', 'Examination: full metal crown', 'metal-crown-examination', 90),
  exercise('metal-36', 'Conservative metal crown', 'metal-conservative-practice', 80),
  exercise('metal-47', 'Metal crown, mid school,', 'metal-mid-practice', 80),
  exercise('metal-37', 'Metal crown, margin first,', 'metal-margin-first-practice', 90),
  exercise('lithium-36', 'Lithium disilicate crown', 'lithium-disilicate-practice', 100),
  exercise('layered-26', 'Layered all-ceramic crown', 'layered-ceramic-practice', 100),
  exercise('crown-14', 'Metal-ceramic crown, full porcelain,', 'metal-ceramic-full-practice', 100),
  exercise('crown-15', 'Metal-ceramic crown, deep facial,', 'metal-ceramic-deep-practice', 100),
  exercise('crown-11', 'Anterior metal-ceramic crown', 'anterior-metal-ceramic-practice', 100),
  exercise('crown-23', 'Canine all-ceramic crown', 'canine-ceramic-practice', 100),
  exercise('class1-37-converging', 'Class I amalgam, converging walls,', 'class1-amalgam-converging', 45),
  exercise('class2-46', 'Class II MO amalgam, instrument access,', 'class2-amalgam-access', 75),
  exercise('class2-85', 'Class II MO amalgam', 'class2-amalgam-primary', 60),
  exercise('slot-46', 'Class II composite slot', 'class2-composite-slot', 60),
  exercise('inlay-46', 'MOD inlay', 'mod-inlay-practice', 90),
  exercise('onlay-36', 'Metal onlay', 'onlay-metal-practice', 100),
  exercise('three-quarter-13', 'Three-quarter crown', 'three-quarter-anterior-practice', 110),
  byEye('preformed-52', 'Preparation for a preformed zirconia crown', '52', 'preformed', 'preformed-zirconia-practice', 45),
  byEye('preformed-84', 'Preparation for a preformed steel crown', '84', 'preformed', 'preformed-steel-practice', 45),
  byEye('seated-84', 'Steel crown seated', '84', 'restoration', 'steel-crown-seated', 30),
  byEye('seated-52', 'Zirconia crown seated', '52', 'restoration', 'zirconia-crown-seated', 30),
  byEye('amalgam-37', 'Amalgam filling', '37', 'restoration', 'amalgam-restoration', 45),
  byEye('composite-46', 'Composite filling', '46', 'restoration', 'composite-restoration', 45),
  byEye('temporary-16', 'Temporary crown', '16', 'restoration', 'temporary-crown', 60),
];

/** Seed and options of an exercise's workshop, so that each run opens the same typodont. */
export const workshopOptions = (e: Exercise, kernel: SolidKernel): ConstructorParameters<typeof Workshop> => [
  e.tooth,
  11,
  kernel,
  { name: e.master, caries: e.caries ?? null },
];

type Bench = 'B1' | 'B2' | 'B3';

export interface Sitting {
  readonly id: string;
  readonly exercise: string;
  readonly title: string;
  readonly heldOn: string;
  /** Benches that take part; all when left out. */
  readonly benches?: readonly Bench[];
}

const sitting = (exercise: string, week: number, title: string, heldOn: string, ...benches: Bench[]): Sitting => ({
  id: `${exercise}-w${week}`,
  exercise,
  title: `${title}, week ${week}`,
  heldOn,
  ...(benches.length ? { benches } : {}),
});

/** Six weeks; the last of them is the one on the bench today. */
export const SITTINGS: readonly Sitting[] = [
  sitting('crown-16', 1, 'Crown practice', '2026-10-19'),
  sitting('class1-37', 1, 'First cavity', '2026-10-20', 'B1', 'B2'),
  sitting('class1-37-converging', 1, 'First cavity, converging walls', '2026-10-20', 'B3'),
  sitting('crown-16', 2, 'Crown practice', '2026-10-26'),
  sitting('class2-46', 2, 'Class II practice, instrument access', '2026-10-27', 'B1', 'B2'),
  sitting('class2-85', 2, 'Primary molar', '2026-10-27', 'B3'),
  sitting('preformed-84', 2, 'Preformed crowns', '2026-10-28', 'B3'),
  sitting('preformed-52', 2, 'Preformed crowns', '2026-10-28', 'B1'),
  sitting('metal-46', 3, 'Metal crown practice', '2026-11-02'),
  sitting('slot-46', 3, 'Composite slot', '2026-11-03', 'B1'),
  sitting('inlay-46', 3, 'Inlay', '2026-11-03', 'B2'),
  sitting('metal-36', 3, 'Conservative metal crown', '2026-11-03', 'B3'),
  sitting('seated-84', 3, 'Seating crowns', '2026-11-04', 'B3'),
  sitting('seated-52', 3, 'Seating crowns', '2026-11-04', 'B1'),
  sitting('crown-22', 4, 'Anterior crown', '2026-11-09', 'B1'),
  sitting('crown-11', 4, 'Anterior crown', '2026-11-09', 'B2'),
  sitting('crown-23', 4, 'Anterior crown', '2026-11-09', 'B3'),
  sitting('lithium-36', 4, 'All-ceramic posterior', '2026-11-10', 'B1'),
  sitting('layered-26', 4, 'All-ceramic posterior', '2026-11-10', 'B2'),
  sitting('metal-47', 4, 'Metal crown, mid school', '2026-11-10', 'B3'),
  sitting('amalgam-37', 4, 'Filling', '2026-11-11', 'B1', 'B2'),
  sitting('composite-46', 4, 'Filling', '2026-11-11', 'B3'),
  sitting('crown-25', 5, 'Metal-ceramic crown', '2026-11-16', 'B1'),
  sitting('crown-14', 5, 'Metal-ceramic crown', '2026-11-16', 'B2'),
  sitting('crown-15', 5, 'Metal-ceramic crown', '2026-11-16', 'B3'),
  sitting('metal-37', 5, 'Margin first', '2026-11-17', 'B1'),
  sitting('onlay-36', 5, 'Metal onlay', '2026-11-17', 'B2'),
  sitting('three-quarter-13', 5, 'Anterior three-quarter crown', '2026-11-17', 'B3'),
  sitting('temporary-16', 5, 'Temporary crowns', '2026-11-18', 'B2'),
  sitting('three-quarter-26', 6, 'Three-quarter crown', '2026-11-23'),
  sitting('onlay-46', 6, 'Ceramic onlay', '2026-11-23'),
  sitting('class2-24', 6, 'Class II practice', '2026-11-23'),
  sitting('metal-46-exam', 6, 'Metal crown examination', '2026-11-24'),
  sitting('crown-16', 6, 'Crown practice', '2026-11-24'),
];

/** Scans of the week on the bench, in the order in which they arrive. */
export const SCANS: readonly {
  readonly student: string;
  readonly sitting: string;
  readonly attempt: number;
  /** For an intermediate step: the parts cut by then. */
  readonly onTheWay?: { readonly step: Step; readonly preparation: Preparation };
}[] = [
  ...['H01', 'H02', 'H03', 'H04', 'H05', 'H06'].map((student) => ({ student, sitting: 'crown-16-w6', attempt: 2 })),
  {
    student: 'H09',
    sitting: 'crown-16-w6',
    attempt: 0,
    onTheWay: {
      step: 'occlusal',
      preparation: { ...CLEAN_PREFORMED, occlusal: 0.85, mesial: null, distal: null },
    },
  },
  ...['H01', 'H02', 'H04', 'H05'].map((student) => ({ student, sitting: 'class2-24-w6', attempt: 1 })),
  ...['H01', 'H05'].map((student) => ({ student, sitting: 'onlay-46-w6', attempt: 1 })),
  { student: 'H06', sitting: 'three-quarter-26-w6', attempt: 1 },
  ...['H07', 'H08'].map((student) => ({ student, sitting: 'metal-46-exam-w6', attempt: 2 })),
];
