import { useState } from 'react';
import type { BenchView, ScoreView } from '#contract/views.ts';

interface Props {
  readonly score: ScoreView;
  readonly grades: BenchView['grades'];
  readonly released: boolean;
  readonly canGrade: boolean;
  readonly busy: boolean;
  readonly next: number | null;
  readonly previous: number | null;
  readonly lines: number;
  readonly onSign: () => void;
  readonly onRelease: () => void;
  readonly onHelp: () => void;
}

/** The score with its reasons, and what ends the work on this attempt. */
export function Foot({ score, grades, released, canGrade, busy, next, previous, onSign, onRelease, onHelp }: Props) {
  const [why, setWhy] = useState(false);
  const last = grades[grades.length - 1];
  return (
    <div className="panel flex flex-wrap items-center gap-3 px-3 py-2">
      <div className="flex items-baseline gap-2" aria-live="polite">
        <span className="figure text-3xl font-bold" data-total>
          {score.total ?? '–'}
        </span>
        <span className="text-soft">of 100</span>
        {score.passed !== null && (
          <span className={score.passed ? 'font-semibold text-good' : 'font-semibold text-bad'}>
            {score.passed ? 'passed' : 'not passed'}
          </span>
        )}
      </div>
      <div className="relative">
        <button type="button" className="quiet" aria-expanded={why} onClick={() => setWhy(!why)}>
          Why {score.total ?? 'no score'}?
        </button>
        {why && (
          <ul className="panel absolute bottom-12 left-0 z-10 w-[420px] p-3 shadow-lg">
            {score.lines.map((l) => (
              <li key={l.text} className="flex justify-between gap-4 border-b border-line py-1 last:border-0">
                <span>{l.text}</span>
                <span className="figure">{l.points.toFixed(1)}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
      {score.critical.some((c) => c.made) && (
        <span className="font-semibold text-bad">
          {score.critical
            .filter((c) => c.made)
            .map((c) => c.title.toLowerCase())
            .join(', ')}
        </span>
      )}
      <span className="text-soft">
        {score.open.length > 0
          ? `${score.open.length} ${score.open.length === 1 ? 'line wants' : 'lines want'} your eye`
          : 'nothing in dispute'}
      </span>
      <div className="ml-auto flex items-center gap-2">
        {last && (
          <span className="text-soft" data-signed={last.version}>
            signed, version <span className="figure">{last.version}</span>: <span className="figure">{last.total}</span>
            {released && ', released'}
          </span>
        )}
        {canGrade && (
          <>
            <button type="button" className="quiet" onClick={onHelp}>
              Keys <span className="figure text-soft">?</span>
            </button>
            <button
              type="button"
              className="quiet"
              disabled={previous === null}
              onClick={() => window.location.assign(`/bench/${previous}`)}
            >
              Back
            </button>
            <button type="button" className="quiet" disabled={next === null} onClick={() => window.location.assign(`/bench/${next}`)}>
              Next <span className="figure text-soft">n</span>
            </button>
            {last && !released && (
              <button type="button" className="quiet" disabled={busy} onClick={onRelease}>
                Release <span className="figure text-soft">r</span>
              </button>
            )}
            <button type="button" className="act" disabled={busy || score.total === null} onClick={onSign}>
              {last ? 'Sign again' : 'Sign'} <span className="figure">s</span>
            </button>
          </>
        )}
      </div>
    </div>
  );
}
