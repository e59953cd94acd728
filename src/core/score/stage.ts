import { entryOf } from '../catalogue/catalogue.ts';
import { STEPS, type Step } from '../catalogue/terms.ts';
import type { Evidence } from './evidence.ts';
import type { JudgedTarget } from './judge.ts';
import { type Repair, repairOf } from './repair.ts';
import type { Rubric } from './rubric.ts';
import { score } from './score.ts';

/** The step that a file name contains as a whole word; `final` without one. */
export function stepOf(fileName: string): Step {
  const words = fileName
    .toLowerCase()
    .split('/')
    .at(-1)
    ?.replace(/\.[a-z0-9]+$/, '') as string;
  const hit = (Object.keys(STEPS) as Step[]).filter((s) => new RegExp(`(^|[^a-z])${s}([^a-z]|$)`).test(words));
  return hit.length === 1 ? hit[0] : 'final';
}

/** State of one target at a step: finished, still to be cut, no longer correctable, or not readable yet. */
export interface Allowance {
  readonly target: JudgedTarget;
  readonly title: string;
  readonly stands: 'enough' | 'cut-more' | 'too-much' | 'to-check' | 'not-read';
  readonly repair: Repair | null;
  /** Points that the line is worth. */
  readonly of: number;
}

/**
 * For each reading that the rubric asks for and the step has cut: how much may still be cut, and what can no longer be
 * corrected. A reading too close to call is left to the instructor.
 */
export function allowances(rubric: Rubric, evidence: Evidence, step: Exclude<Step, 'final'>): Allowance[] {
  const judged = score(rubric, evidence);
  return judged.criteria.flatMap((c) =>
    c.targets
      .filter((t) => t.verdict !== 'skipped' && entryOf(t.target.reading).steps.includes(step))
      .map((target): Allowance => {
        const repair = repairOf(target, judged, evidence.readings);
        const stands =
          target.verdict === 'none'
            ? 'not-read'
            : target.verdict === 'inside'
              ? 'enough'
              : target.verdict === 'close'
                ? 'to-check'
                : repair?.can
                  ? 'cut-more'
                  : 'too-much';
        return { target, title: c.criterion.title, stands, repair, of: c.of };
      }),
  );
}
