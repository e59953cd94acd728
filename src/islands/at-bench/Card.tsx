import type { CutterItem } from '#contract/kit.ts';
import type { StepState } from '#core/plan/bench-clock.ts';
import type { PlannedStep } from '#core/plan/plan.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { expectedWords, howWords, PLAN, warningWords } from '#words/plan.ts';
import { sentence } from '#words/readings.ts';
import { STEP_WORDS } from '#words/steps.ts';

interface Props {
  readonly step: PlannedStep;
  readonly state: StepState;
  readonly of: number;
  readonly teeth: number;
  readonly cutter: CutterItem | null;
  /** Number of an earlier step that waits for an instructor's word. */
  readonly blockedBy: number | null;
  readonly minutes: string;
}

/** What a step is: cutter, depth, what should be read, where to stop; what an instructor said of it; the clock. */
export function Card({ step, state, of, teeth, cutter, blockedBy, minutes }: Props) {
  const words = STEP_WORDS[step.id];
  return (
    <>
      <p className="text-soft">
        {AT_BENCH.step(state.number, of)}
        {AT_BENCH.turns(state.turns)}
        {AT_BENCH.teeth(teeth)}
      </p>
      <h2 className="text-2xl font-bold">{words.title}</h2>
      <p className="text-xl">{howWords(step, cutter)}</p>
      <p>{words.what}</p>
      {step.warnings.map((w) => (
        <p key={w.kind} className="border-l-4 border-over pl-2">
          {warningWords(w)}
        </p>
      ))}
      {step.readings.length > 0 && (
        <div>
          <h3 className="font-semibold">{AT_BENCH.expected}</h3>
          <ul>
            {step.readings.map((r) => (
              <li key={`${r.reading}${r.zone}${r.stat}`}>{expectedWords(r)}</li>
            ))}
          </ul>
        </div>
      )}
      {step.gauge && <p>{sentence(PLAN.gauge(step.gauge.passes, step.gauge.stops))}</p>}
      <p>
        <strong>{PLAN.stop}:</strong> {words.stop}
      </p>
      {state.needsWord && state.words.length === 0 && <p className="font-semibold">{AT_BENCH.needsWord}</p>}
      {blockedBy !== null && (
        <p className="border-l-4 border-over pl-2">
          {AT_BENCH.step(blockedBy, of)}: {AT_BENCH.needsWord}
        </p>
      )}
      {state.words.map((w) => (
        <p key={w.at} className="border-l-4 border-accent pl-2 font-semibold">
          {AT_BENCH.wordFrom(AT_BENCH.word[w.word], w.initials, w.note)}
        </p>
      ))}
      {state.isAsked && <p role="status">{AT_BENCH.asked}</p>}
      <p className="figure text-lg" data-minutes>
        {minutes}
      </p>
    </>
  );
}
