import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import type { PlanChoices } from '#contract/plan.ts';
import { choiceWords, PLAN } from '#words/plan.ts';

const ALL = Object.keys(choiceWords) as (keyof PlanChoices)[];
const OPTIONS: { readonly [K in keyof PlanChoices]: readonly PlanChoices[K][] } = {
  depthCuts: ['in the grooves', 'on the ridges'],
  first: ['occlusal', 'margin'],
  depth: ['at once', 'in two'],
};

/** What a course chooses where schools differ; the plan is made again with it. */
export function Choices({ exercise, choices }: { readonly exercise: string; readonly choices: PlanChoices }) {
  const [error, setError] = useState<string | null>(null);
  const choose = (change: Partial<PlanChoices>): void => {
    call(`/api/exercises/${encodeURIComponent(exercise)}/plan`, { ...choices, ...change }).then(
      () => window.location.reload(),
      (e) => setError((e as Error).message),
    );
  };
  return (
    <section className="panel flex flex-wrap items-center gap-x-4 gap-y-2 p-3" aria-label={PLAN.choices}>
      <h2 className="font-bold">{PLAN.choices}</h2>
      {ALL.map((k) => (
        <label key={k} className="flex items-center gap-2">
          <span className="text-soft">{choiceWords[k].title}</span>
          <select className="field !w-auto" value={choices[k]} onChange={(e) => choose({ [k]: e.target.value } as Partial<PlanChoices>)}>
            {OPTIONS[k].map((o) => (
              <option key={o} value={o}>
                {(choiceWords[k] as Record<string, string>)[o]}
              </option>
            ))}
          </select>
        </label>
      ))}
      <Problem text={error} />
    </section>
  );
}
