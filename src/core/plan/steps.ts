import { planOf as toothPlan } from '../anatomy/anatomy.ts';
import type { Step } from '../catalogue/terms.ts';
import type { KindName } from '../kinds/kinds.ts';

/** What a step's cutter has to be able to do. */
export type Duty = 'groove' | 'bulk' | 'axial' | 'contact' | 'margin' | 'fossa' | 'floor' | 'box' | 'retention' | 'finish';

/** Which readings a step brings to their target: by name, and by place where a name is cut in several steps. */
export interface Brings {
  readonly reading: string;
  readonly zones?: RegExp;
}

export type StepId =
  | 'depth-cuts'
  | 'occlusal'
  | 'functional-bevel'
  | 'check-occlusion'
  | 'incisal'
  | 'facial-planes'
  | 'contacts'
  | 'axial'
  | 'lingual-wall'
  | 'lingual-fossa'
  | 'margin'
  | 'outline'
  | 'even-depth'
  | 'ridge-stop'
  | 'box-shell'
  | 'box-open'
  | 'hand-finish'
  | 'slices'
  | 'grooves'
  | 'pinhole'
  | 'bevels'
  | 'cover'
  | 'fit'
  | 'smooth'
  | 'final'
  | 'band'
  | 'fill'
  | 'carve'
  | 'polish';

export interface StepPlan {
  readonly id: StepId;
  readonly duty: Duty | null;
  readonly brings: readonly Brings[];
  /** Something is left for the steps after it. */
  readonly leaves: boolean;
  /** The stage at which a scan may be taken after it. */
  readonly scan: Step | null;
  /** Critical errors that can exist from here on, by the beginning of their reading's name. */
  readonly canDamage: readonly string[];
}

const step = (
  id: StepId,
  duty: Duty | null,
  brings: readonly (string | Brings)[] = [],
  more: Partial<Pick<StepPlan, 'leaves' | 'scan' | 'canDamage'>> = {},
): StepPlan => ({
  id,
  duty,
  brings: brings.map((b) => (typeof b === 'string' ? { reading: b } : b)),
  leaves: false,
  scan: null,
  canDamage: [],
  ...more,
});

/** Choices on which schools differ; a course makes them. */
export interface PlanChoices {
  /** Depth cuts along the developmental grooves, or on the ridges. */
  readonly depthCuts: 'in the grooves' | 'on the ridges';
  readonly first: 'occlusal' | 'margin';
  /** A deep reduction cut to 1.0 first, or with its full depth at once. */
  readonly depth: 'in two' | 'at once';
}
export const USUAL_CHOICES: PlanChoices = { depthCuts: 'in the grooves', first: 'occlusal', depth: 'at once' };

const SURROUNDINGS = ['neighbour', 'contact', 'gingiva'];
const FINAL = step('final', null, [], { scan: 'final', canDamage: [...SURROUNDINGS, 'undercut', 'pulp', 'draw'] });
const SMOOTH = step('smooth', 'finish', [
  'surface.rough',
  'edge.sharp',
  'margin.wander',
  'margin.step',
  'margin.form',
  'margin.lip',
  'form.occlusal',
]);
const CONTACTS = step('contacts', 'contact', [], { leaves: true, canDamage: ['neighbour'] });
const FACIAL_LINGUAL = /^(facial|lingual)/;
const AXIAL = step(
  'axial',
  'axial',
  [{ reading: 'reduction.axial', zones: FACIAL_LINGUAL }, 'toc.faciolingual', { reading: 'taper.wall', zones: FACIAL_LINGUAL }],
  { leaves: true, canDamage: [...SURROUNDINGS, 'undercut', 'pulp'] },
);
// What goes all round can be read once the contacts are broken.
const ALL_ROUND = step('contacts', 'contact', ['reduction.axial', 'toc', 'taper.wall', 'draw.tilt', 'wall.height', 'resistance'], {
  leaves: true,
  scan: 'axial',
  canDamage: [...SURROUNDINGS, 'undercut', 'pulp'],
});
const MARGIN = step('margin', 'margin', ['margin.width', 'margin.gingiva'], { canDamage: [...SURROUNDINGS, 'undercut'] });

function posteriorCrown({ first }: PlanChoices): StepPlan[] {
  const occlusal = [
    step('depth-cuts', 'groove', ['reduction.occlusal'], { leaves: true }),
    step('occlusal', 'bulk', ['reduction.occlusal'], { canDamage: ['pulp'] }),
    step('functional-bevel', 'bulk', ['bevel.functional']),
    step('check-occlusion', null, ['clearance', 'gauge'], { scan: 'occlusal' }),
  ];
  const sides = [AXIAL, ALL_ROUND, MARGIN];
  return [...(first === 'margin' ? [...sides, ...occlusal] : [...occlusal, ...sides]), SMOOTH, FINAL];
}

const anteriorCrown = (): StepPlan[] => [
  step('incisal', 'bulk', ['reduction.incisal'], { scan: 'occlusal' }),
  step('facial-planes', 'axial', ['planes.facial', { reading: 'reduction.axial', zones: /facial/ }], { leaves: true, canDamage: ['pulp'] }),
  CONTACTS,
  step('lingual-wall', 'axial', ['form.lingual.height', 'toc', 'draw.tilt', 'resistance'], { leaves: true, canDamage: SURROUNDINGS }),
  step('lingual-fossa', 'fossa', [{ reading: 'reduction.axial', zones: /lingual/ }, 'form.lingual.angle', 'form.lingual.concavity'], {
    scan: 'axial',
  }),
  MARGIN,
  SMOOTH,
  FINAL,
];

const BOX_FLOOR = ['floor.gingival', 'cavosurface', 'axiopulpal'];
const OUTLINE = step('outline', 'floor', ['depth.pulpal', 'outline.isthmus'], { leaves: true, canDamage: ['pulp'] });
const EVEN = step('even-depth', 'floor', [
  'floor.pulpal',
  'outline.smooth',
  'outline.coverage',
  { reading: 'wall.angle', zones: /^(facial|lingual)$/ },
]);

function cavity(hasBox: boolean): StepPlan[] {
  return [
    OUTLINE,
    EVEN,
    step('ridge-stop', null, ['outline.ridge', { reading: 'wall.angle', zones: /^(mesial|distal)$/ }], { scan: 'outline' }),
    ...(hasBox
      ? [
          step('box-shell', 'box', ['box.axialdepth', 'box.height', 'box.width'], { leaves: true, canDamage: SURROUNDINGS }),
          step('box-open', 'box', ['box.clearance', { reading: 'wall.angle', zones: /box/ }, 'instrument'], {
            scan: 'box',
            canDamage: [...SURROUNDINGS, 'caries'],
          }),
        ]
      : []),
    step('hand-finish', null, [...BOX_FLOOR, 'caries']),
    FINAL,
  ];
}

const onlay = (): StepPlan[] => [
  OUTLINE,
  step('even-depth', 'floor', ['floor.pulpal', 'divergence']),
  step('box-open', 'box', ['box.clearance', 'floor.gingival'], { leaves: true, scan: 'box', canDamage: SURROUNDINGS }),
  step('depth-cuts', 'groove', ['reduction.occlusal'], { leaves: true }),
  step('cover', 'bulk', ['reduction.occlusal', 'clearance'], { canDamage: ['pulp'] }),
  MARGIN,
  step('bevels', 'finish', ['margin.lip', 'bevel']),
  FINAL,
];

const partial = (): StepPlan[] => [
  step('slices', 'contact', ['slice.angle', 'facial.extension'], { canDamage: ['neighbour'] }),
  step(
    'lingual-wall',
    'axial',
    [
      { reading: 'taper.wall', zones: /lingual/ },
      { reading: 'reduction.axial', zones: /lingual/ },
    ],
    {
      leaves: true,
      scan: 'axial',
      canDamage: SURROUNDINGS,
    },
  ),
  step('grooves', 'retention', ['groove'], { canDamage: ['pulp'] }),
  step('occlusal', 'bulk', ['reduction.occlusal', 'reduction.incisal', 'clearance'], { scan: 'occlusal' }),
  MARGIN,
  step('bevels', 'finish', ['bevel', 'surface.rough']),
  step('pinhole', 'retention', ['pin'], { canDamage: ['pulp'] }),
  FINAL,
];

const preformed = (): StepPlan[] => [
  step('occlusal', 'bulk', ['reduction.occlusal', 'reduction.incisal', 'clearance'], { scan: 'occlusal' }),
  step('slices', 'contact', ['slice', 'reduction.axial', 'taper.wall'], { scan: 'axial', canDamage: SURROUNDINGS }),
  step('fit', null, []),
  FINAL,
];

const restoration = (): StepPlan[] => [step('band', null), step('fill', null), step('carve', null), step('polish', null), FINAL];

/** The ordered steps of a preparation on a tooth; whether a cavity has a box is told by the readings that the standard asks for. */
export function stepsOf(kind: KindName, tooth: string, asked: readonly string[], choices: PlanChoices): StepPlan[] {
  switch (kind) {
    case 'crown':
      return ['molar', 'premolar'].includes(toothPlan(tooth).kind) ? posteriorCrown(choices) : anteriorCrown();
    case 'cavity':
      return cavity(asked.some((r) => r.startsWith('box.')));
    case 'onlay':
      return onlay();
    case 'partial':
      return partial();
    case 'preformed':
      return preformed();
    case 'restoration':
      return restoration();
  }
}
