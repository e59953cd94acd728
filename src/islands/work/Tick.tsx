import { useState } from 'react';
import { call } from '#components/call.ts';
import type { PracticeView } from '#contract/progress-view.ts';
import { WORK } from '#words/work.ts';

/** Ticks a drill off for today. */
export function Tick({ practice, course }: { readonly practice: PracticeView; readonly course: string }) {
  const [done, setDone] = useState(practice.done);
  const [problem, setProblem] = useState<string | null>(null);
  const isToday = done.includes(new Date().toISOString().slice(0, 10));
  const tick = (): Promise<void> =>
    call<{ done: string }>('/api/practice', { course, skill: practice.id })
      .then((a) => setDone((d) => [...new Set([...d, a.done])]))
      .catch((e) => setProblem((e as Error).message));
  return (
    <span className="flex flex-wrap items-center gap-2">
      <button type="button" className="quiet !min-h-9" aria-pressed={isToday} disabled={isToday} onClick={() => void tick()}>
        {WORK.done}
      </button>
      {done.length > 0 && <span className="text-soft">{WORK.doneTimes(done.length)}</span>}
      {problem && <span className="text-bad">{problem}</span>}
    </span>
  );
}
