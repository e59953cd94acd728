import { useEffect, useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import type { PlanView } from '#contract/plan.ts';
import { PLAN } from '#words/plan.ts';
import { Plan } from './Plan.tsx';

/** The plan, or what it waits for: a tooth that is looked at for the first time is made first. */
export function PlanWhenMade({ id, title, first }: { readonly id: string; readonly title: string; readonly first: PlanView | null }) {
  const [view, setView] = useState(first);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (first) return;
    call<PlanView>(`/api/exercises/${encodeURIComponent(id)}/plan`).then(setView, (e) => setProblem((e as Error).message));
  }, [id, first]);
  if (view) return <Plan view={view} />;
  return (
    <div className="grid gap-3" data-plan="coming">
      <h1 className="text-xl font-bold">
        {PLAN.title}: {title}
      </h1>
      <Problem text={problem} />
      {problem === null && (
        <p role="status" className="panel p-6 text-soft">
          {PLAN.coming}
        </p>
      )}
    </div>
  );
}
