import { VerdictMark, type VerdictName } from '#components/Verdict.tsx';
import type { TrailView } from '#contract/trail-view.ts';
import { valueWords } from '#words/readings.ts';
import { TRAIL } from '#words/trail.ts';
import { dayWords } from '#words/writing.ts';
import { comparable } from '../beside/state.ts';

/** Every attempt, the newest first, with what decided its score. */
export function Attempts({ view }: { readonly view: TrailView }) {
  const pairs = new Set(comparable(view.attempts).map((a) => a.attempt_id));
  const list = view.attempts.map((a, i) => ({ ...a, n: i + 1 })).reverse();
  return (
    <section className="panel relative overflow-x-auto" aria-label={TRAIL.attempts}>
      <table className="w-full text-left" data-trail>
        <thead>
          <tr className="border-b border-line text-soft">
            {TRAIL.columns.map((c, i) => (
              <th key={c} className={`px-3 py-2 font-normal ${i === TRAIL.columns.length - 1 ? 'text-right' : ''}`}>
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {list.map((a) => (
            <tr key={a.attempt_id} className="border-b border-line align-top last:border-0">
              <td className="px-3 py-2">
                <span className="figure">{a.n}</span>, <span className="figure text-soft">{dayWords(a.held_on)}</span>
                <div className="text-soft">{a.sitting_title}</div>
                {(a.number > 1 || a.minutes !== null) && <div className="text-soft">{TRAIL.tries(a.number, a.minutes)}</div>}
              </td>
              <td className="px-3 py-2">
                <a className="text-accent underline" href={`/bench/${a.attempt_id}`}>
                  {a.exercise_title}
                </a>
                <div className="text-soft">{TRAIL.gradedBy(a.grader_name)}</div>
                {pairs.has(a.attempt_id) && (
                  <a className="text-accent underline" href={`/trail/${view.student.id}/beside?later=${a.attempt_id}`}>
                    {TRAIL.beside}
                  </a>
                )}
              </td>
              <td className="px-3 py-2">
                {a.record.critical
                  .filter((c) => c.made)
                  .map((c) => (
                    <div key={c.title}>
                      <VerdictMark verdict="critical" word={false} /> <span className="font-semibold">{c.title}</span>
                    </div>
                  ))}
                {a.record.criteria
                  .filter((c) => (c.level !== null && c.level < 3) || c.comment)
                  .map((c) => (
                    <div key={c.id} className="flex flex-wrap gap-x-2">
                      <VerdictMark verdict={c.verdict as VerdictName} word={false} />
                      {c.title}
                      <span className="figure text-soft">{valueWords(c.value, c.U, c.unit ?? 'mm')}</span>
                      {c.reason && <em className="text-soft">{c.reason}</em>}
                      {c.comment && <span className="w-full border-l-2 border-accent pl-2">{c.comment}</span>}
                    </div>
                  ))}
              </td>
              <td className="px-3 py-2 text-right">
                <span className="figure text-lg">{a.total}</span>
                <div className={a.passed ? 'text-good' : 'text-bad'}>{a.passed ? TRAIL.passed : TRAIL.notPassed}</div>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
