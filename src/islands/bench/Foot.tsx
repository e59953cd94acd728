import { useState } from 'react';
import type { BenchView } from '#contract/views.ts';
import { BENCH } from '#words/bench.ts';
import type { BenchKey } from '#words/keys.ts';
import { type KeyChoice, keyOf } from './keys.ts';
import type { Grading } from './useGrading.ts';

interface Props {
  readonly grading: Pick<Grading, 'score' | 'grades' | 'released' | 'isChanged' | 'busy' | 'withdraw'>;
  readonly canGrade: boolean;
  readonly keys: KeyChoice;
  readonly view: Pick<BenchView, 'next' | 'previous' | 'nextUnsigned'>;
  /** Signs; with `andGo` the next unsigned attempt follows. */
  readonly onSign: (andGo: boolean) => void;
  readonly onRelease: () => void;
  readonly onOpen: (attempt: number | null) => void;
  readonly onHelp: () => void;
}

/** Score with its reasons, and the acts that finish an attempt: sign, release, next. */
export function Foot({ grading, canGrade, keys, view, onSign, onRelease, onOpen, onHelp }: Props) {
  const { score, grades, released, busy, isChanged } = grading;
  const [why, setWhy] = useState(false);
  const last = grades.at(-1);
  /** Nothing is left to do here; the next attempt is the primary action. */
  const isDone = last !== undefined && !isChanged;
  const letter = (id: BenchKey, strong = false) =>
    keys.on && <span className={`figure ${strong ? '' : 'text-soft'}`}>{keyOf(keys, id)}</span>;
  return (
    <div className="panel flex flex-wrap items-center gap-3 px-3 py-2">
      <div className="flex items-baseline gap-2" aria-live="polite">
        {score.failures.length > 0 && <span className="max-w-[300px] font-semibold text-bad">{BENCH.notPassed(score.failures)}</span>}
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
        {BENCH.toCheck(score.undecided.length)}
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
            {isChanged && <span className="text-bad">, {BENCH.changedSince}</span>}
            {released !== null && (released === last.version ? ', released' : `, version ${released} is released`)}
          </span>
        )}
        {canGrade && (
          <>
            <button type="button" className="quiet max-[899px]:hidden" onClick={onHelp}>
              {BENCH.keys} <span className="figure text-soft">?</span>
            </button>
            <button
              type="button"
              className="quiet max-[899px]:hidden"
              disabled={view.previous === null}
              onClick={() => onOpen(view.previous)}
            >
              {BENCH.previous}
            </button>
            <button type="button" className={isDone ? 'act' : 'quiet'} disabled={view.next === null} onClick={() => onOpen(view.next)}>
              {BENCH.next} {letter('next', isDone)}
            </button>
            {released !== null && (
              <button type="button" className="quiet" disabled={busy} onClick={() => void grading.withdraw()}>
                {BENCH.takeBack}
              </button>
            )}
            {last && released !== last.version && (
              <button type="button" className="quiet" disabled={busy} onClick={onRelease}>
                {BENCH.release} {letter('release')}
              </button>
            )}
            <button
              type="button"
              className={isDone || view.nextUnsigned !== null ? 'quiet' : 'act'}
              disabled={busy}
              onClick={() => onSign(false)}
            >
              {last ? BENCH.signAgain : BENCH.sign} {letter('sign', !isDone && view.nextUnsigned === null)}
            </button>
            {!isDone && view.nextUnsigned !== null && (
              <button type="button" className="act" disabled={busy} onClick={() => onSign(true)}>
                {BENCH.signNext} {letter('sign-next', true)}
              </button>
            )}
          </>
        )}
      </div>
    </div>
  );
}
