import { useState } from 'react';
import { writeAsOwn } from '#components/writing.ts';
import type { WorkView } from '#contract/work.ts';
import { WORK } from '#words/work.ts';
import { dayWords } from '#words/writing.ts';
import { Result } from './Result.tsx';
import { SelfForm } from './SelfForm.tsx';

writeAsOwn();

/** One attempt as its student sees it: still being graded, back and to be judged by themselves, or its result. */
export function Work({ first, own }: { readonly first: WorkView; readonly own: boolean }) {
  const [view, setView] = useState(first);
  const { attempt, report, result } = view;
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <a className="text-accent underline" href={own ? '/work' : `/trail/${view.student}`}>
          {own ? WORK.title : WORK.all}
        </a>
        <h1 className="text-xl font-bold">{attempt.exercise}</h1>
        <span className="text-soft">
          {attempt.sitting}, {dayWords(attempt.held_on)}
          {WORK.try(attempt.number)}
        </span>
      </div>
      {result && report ? (
        <Result view={{ ...view, report, result }} />
      ) : (
        <>
          {attempt.state !== 'back' && <p className="panel p-3">{WORK.toGrade}</p>}
          {own && <SelfForm view={view} onView={setView} />}
          {!own && attempt.state === 'back' && <p className="panel p-3">{WORK.states.back}</p>}
        </>
      )}
    </div>
  );
}
