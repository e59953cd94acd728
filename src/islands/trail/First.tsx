import { VerdictMark } from '#components/Verdict.tsx';
import type { ProgressView } from '#contract/progress-view.ts';
import { PROGRESS } from '#words/progress.ts';
import { TRAIL } from '#words/trail.ts';

/** Repeated errors listed. */
const MOST = 5;

/** Critical errors and what was weak again and again, across exercises; each leads to its newest attempt. */
export function First({ progress, own }: { readonly progress: ProgressView; readonly own: boolean }) {
  const { errors, repeated } = progress;
  return (
    <section className="panel p-3" aria-label={PROGRESS.first}>
      <h2 className="mb-2 font-semibold">{PROGRESS.first}</h2>
      {errors.length + repeated.length === 0 && <p className="text-soft">{PROGRESS.noErrors}</p>}
      <ul>
        {errors.map((e) => (
          <li key={e.title} className="border-b border-line py-1.5 last:border-0">
            <VerdictMark verdict="critical" word={false} />{' '}
            <a className="font-semibold text-accent underline" href={`/bench/${e.attempt}`}>
              {e.title}
            </a>
            <div className="text-soft">{PROGRESS.made(e.times, e.of)}</div>
          </li>
        ))}
        {repeated.slice(0, MOST).map((r) => (
          <li key={r.title} className="border-b border-line py-1.5 last:border-0">
            <a className="text-accent underline" href={`/bench/${r.attempt}`}>
              {r.title}
            </a>
            <div className="text-soft">
              {PROGRESS.weak(r.times, r.of)}
              {r.zone && `, ${TRAIL.lastAt(r.zone)}`}
            </div>
          </li>
        ))}
      </ul>
      {own && <span className="sr-only">{TRAIL.own}</span>}
    </section>
  );
}
