import { useRef, useState } from 'react';
import { Problem } from '#components/Problem.tsx';
import type { AtBench } from '#contract/at-bench.ts';
import type { StageView } from '#contract/views.ts';
import type { Step } from '#core/catalogue/terms.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { DECISION } from '#words/plan.ts';
import { bandWords, capital, foundWords, readingWords } from '#words/readings.ts';
import { repairWords } from '../bench/repair.ts';

interface Props {
  readonly view: AtBench;
  readonly step: Step;
  readonly onSent: () => void;
}

const COLOUR: Readonly<Record<StageView['decision'], string>> = {
  'go-on': 'text-good',
  correct: '',
  look: '',
  lost: 'text-bad',
  'new-tooth': 'text-bad',
};

/** The scan of a step: brought by its student, and what it comes to: go on, correct, have it looked at, or a new tooth. */
export function StepScan({ view, step, onSent }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const stage = view.stages.find((s) => s.step === step);
  const coming = view.coming.find((c) => c.step === step);
  const bring = async (file: File): Promise<void> => {
    setBusy(true);
    setProblem(null);
    const form = new FormData();
    form.append('scan', file);
    form.append('step', step);
    try {
      const answer = await fetch(`/api/attempts/${view.attempt.id}/step-scan`, { method: 'POST', body: form });
      if (!answer.ok) throw new Error(((await answer.json()) as { message: string }).message);
      onSent();
    } catch (e) {
      setProblem((e as Error).message);
    }
    setBusy(false);
  };
  return (
    <section className="panel grid gap-2 p-4" aria-label={AT_BENCH.scan} data-decision={coming ? 'coming' : (stage?.decision ?? 'none')}>
      <h2 className="font-bold">{AT_BENCH.scan}</h2>
      {coming && <p role="status">{coming.fault ? AT_BENCH.refusedScan(coming.fault) : AT_BENCH.measuring}</p>}
      {stage && !coming && <Outcome stage={stage} />}
      {view.isOwn && (
        <>
          <input
            ref={input}
            type="file"
            hidden
            aria-label={AT_BENCH.bring}
            accept=".stl,.ply,.obj,.gz"
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) void bring(file);
            }}
          />
          <button type="button" className="quiet !min-h-12" disabled={busy} onClick={() => input.current?.click()}>
            {busy ? AT_BENCH.sending : AT_BENCH.bring}
          </button>
        </>
      )}
      <Problem text={problem} />
    </section>
  );
}

/** What to do after a step, and on which readings that rests. */
function Outcome({ stage }: { readonly stage: StageView }) {
  const { title, what } = DECISION[stage.decision];
  return (
    <>
      <p className={`text-xl font-bold ${COLOUR[stage.decision]}`}>{title}</p>
      <p>
        {what} {stage.costs > 0 && AT_BENCH.costs(stage.costs)}
      </p>
      {stage.critical
        .filter((c) => c.made !== false)
        .map((c) => (
          <p key={c.title} className={c.made ? 'font-semibold text-bad' : ''}>
            {AT_BENCH.critical(c.title, c.made)}
          </p>
        ))}
      <ul>
        {stage.lines
          .filter((l) => l.stands !== 'enough')
          .map((l) => (
            <li key={`${l.reading}${l.zone}${l.stat}`} className="border-t border-line py-1">
              <span className="font-semibold">{AT_BENCH.lines[l.stands]}:</span> {capital(readingWords(l.reading, l.zone, l.stat))}{' '}
              <span className="figure">{foundWords(l)}</span> <span className="figure text-soft">({bandWords(l.lo, l.hi, l.unit)})</span>
              {l.repair && l.stands === 'cut-more' && <span className="block text-soft">{repairWords(l.repair, l.unit)}</span>}
            </li>
          ))}
      </ul>
    </>
  );
}
