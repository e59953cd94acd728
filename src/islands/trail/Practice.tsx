import type { ProgressView } from '#contract/progress-view.ts';
import { PROGRESS } from '#words/progress.ts';
import { dayWords } from '#words/writing.ts';
import { Tick } from '../work/Tick.tsx';

/** Two or three things to practise: why, how, checked by what, and when to try again. */
export function Practice({
  progress,
  course = null,
}: {
  readonly progress: ProgressView /** Where the reader ticks off their own drills; null where nobody does. */;
  readonly course?: string | null;
}) {
  const today = new Date().toISOString().slice(0, 10);
  return (
    <section className="panel p-3" aria-label={PROGRESS.practice}>
      <h2 className="mb-2 font-semibold">{PROGRESS.practice}</h2>
      {progress.practice.length === 0 && <p className="text-soft">{PROGRESS.nothingNext}</p>}
      <ol>
        {progress.practice.map((p) => (
          <li key={p.id} className="border-b border-line py-1.5 last:border-0">
            <span className="flex justify-between gap-2">
              <span className="font-semibold">{p.title}</span>
              <span className="figure whitespace-nowrap text-soft">{PROGRESS.gain(p.gain)}</span>
            </span>
            <div className="text-soft">
              {PROGRESS.why(p.times, p.of, p.lostOnAverage)} {p.after && PROGRESS.after(p.after)}{' '}
              {(p.on < today ? PROGRESS.due : PROGRESS.by)(dayWords(p.on, 'long'))}
            </div>
            {course && <Tick practice={p} course={course} />}
            {p.drill && (
              <details>
                <summary className="cursor-pointer text-accent">{PROGRESS.drill(p.drill.title, p.drill.times)}</summary>
                <p>{p.drill.body}</p>
                <p className="text-soft">
                  {PROGRESS.check}: {p.drill.check}
                </p>
              </details>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
