import type { Reading } from '../result/reading.ts';
import { type Repair, repairOf } from './repair.ts';
import type { Rubric } from './rubric.ts';
import { type JudgedTarget, score } from './score.ts';

/** Where the cutting stands when a scan is taken; `final` is what is graded. */
export const STEPS = {
  occlusal: 'after occlusal reduction',
  axial: 'after axial reduction',
  outline: 'after outline and depth',
  box: 'after the box',
  final: 'finished',
} as const;
export type Step = keyof typeof STEPS;

/** What has been cut by then: readings that already say something. What comes later is not asked for yet. */
const DONE_BY: Readonly<Record<Exclude<Step, 'final'>, RegExp>> = {
  occlusal: /^(reduction\.(occlusal|incisal)|clearance|form\.occlusal|bevel\.)/,
  axial: /^(reduction|clearance|form\.|bevel\.|taper|toc|wall|margin\.(width|gingiva|lip)|planes|neighbour)/,
  outline: /^(outline|depth\.pulpal|floor\.pulpal|wall\.angle|pulp|caries)/,
  box: /^(outline|depth|floor|wall|box|axiopulpal|cavosurface|divergence|pulp|caries|neighbour)/,
};

/** The step that a file name says, as a word of its own; `final` when it says none. */
export function stepOf(fileName: string): Step {
  const words = fileName
    .toLowerCase()
    .split('/')
    .at(-1)
    ?.replace(/\.[a-z0-9]+$/, '') as string;
  const hit = (Object.keys(STEPS) as Step[]).filter((s) => new RegExp(`(^|[^a-z])${s}([^a-z]|$)`).test(words));
  return hit.length === 1 ? hit[0] : 'final';
}

/** How one target stands at a step: nothing more to cut, so much more, never again, or not to be read yet. */
export interface Allowance {
  readonly target: JudgedTarget;
  readonly title: string;
  readonly stands: 'enough' | 'cut-on' | 'too-much' | 'your-eye' | 'not-read';
  readonly repair: Repair | null;
}

/**
 * What a step leaves: for every reading that the rubric asks for and the step has cut, how much may still go, and what can no
 * longer be put right. What is too close to call is left to the eye.
 */
export function allowances(rubric: Rubric, readings: readonly Reading[], step: Exclude<Step, 'final'>): Allowance[] {
  const judged = score(rubric, readings, {});
  return judged.criteria.flatMap((c) =>
    c.targets
      .filter((t) => DONE_BY[step].test(t.target.reading))
      .map((target): Allowance => {
        const repair = repairOf(target, judged, readings);
        const stands =
          target.verdict === 'none'
            ? 'not-read'
            : target.verdict === 'inside'
              ? 'enough'
              : target.verdict === 'close'
                ? 'your-eye'
                : repair?.can
                  ? 'cut-on'
                  : 'too-much';
        return { target, title: c.criterion.title, stands, repair };
      }),
  );
}
