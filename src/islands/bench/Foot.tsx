import { useState } from 'react';
import type { Grading } from './useGrading.ts';

interface Props {
  readonly grading: Pick<Grading, 'score' | 'grades' | 'released' | 'isChanged' | 'busy' | 'release' | 'withdraw'>;
  readonly canGrade: boolean;
  readonly next: number | null;
  readonly previous: number | null;
  readonly onSign: () => void;
  readonly onHelp: () => void;
}

const lower = (text: string): string => text[0].toLowerCase() + text.slice(1);

/** Score with its reasons, and the acts that finish an attempt: sign, release, next. */
export function Foot({ grading, canGrade, next, previous, onSign, onHelp }: Props) {
  const { score, grades, released, busy, isChanged } = grading;
  const [why, setWhy] = useState(false);
  const last = grades.at(-1);
  /** Nothing is left to do here; the next attempt is the primary action. */
  const isDone = last !== undefined && !isChanged;
  return (
    <div className="panel flex flex-wrap items-center gap-3 px-3 py-2">
      <div className="flex items-baseline gap-2" aria-live="polite">
        {score.failures.length > 0 && (
          <span className="max-w-[300px] font-semibold text-bad">Not passed: {score.failures.map(lower).join('; ')}</span>
        )}
        <span className={`figure font-bold ${score.failures.length > 0 ? 'text-xl' : 'text-3xl'}`} data-total>
          {score.total ?? `${score.range.least}–${score.range.most}`}
        </span>
        <span className="text-soft">of 100{score.total === null && ', provisional'}</span>
        {score.passed && <span className="font-semibold text-good">passed</span>}
      </div>
      <div className="relative">
        <button type="button" className="quiet" aria-expanded={why} onClick={() => setWhy(!why)}>
          Why {score.total ?? `${score.range.least}–${score.range.most}`}?
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
      <span className="text-soft" data-open={score.undecided.length}>
        {score.undecided.length > 0
          ? `${score.undecided.length} ${score.undecided.length === 1 ? 'line' : 'lines'} to check`
          : 'nothing in dispute'}
      </span>
      <div className="ml-auto flex items-center gap-2">
        {last && (
          <span className="text-soft" data-signed={last.version}>
            version <span className="figure">{last.version}</span> signed
            {last.total !== score.total && (
              <>
                {' '}
                with <span className="figure">{last.total}</span>
              </>
            )}
            {isChanged && <span className="text-bad">, changed since</span>}
            {released !== null && (released === last.version ? ', released' : `, version ${released} is released`)}
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
            <button
              type="button"
              className={isDone ? 'act' : 'quiet'}
              disabled={next === null}
              onClick={() => window.location.assign(`/bench/${next}`)}
            >
              Next <span className={`figure ${isDone ? '' : 'text-soft'}`}>n</span>
            </button>
            {released !== null && (
              <button type="button" className="quiet" title="Take the release back" disabled={busy} onClick={grading.withdraw}>
                Take back
              </button>
            )}
            {last && released !== last.version && (
              <button type="button" className="quiet" disabled={busy} onClick={grading.release}>
                Release <span className="figure text-soft">r</span>
              </button>
            )}
            <button type="button" className={isDone ? 'quiet' : 'act'} disabled={busy} onClick={onSign}>
              {last ? 'Sign again' : 'Sign'} <span className="figure">s</span>
            </button>
          </>
        )}
      </div>
    </div>
  );
}
