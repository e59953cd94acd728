import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import type { SelfForm as Form, WorkView } from '#contract/work.ts';
import { WORK } from '#words/work.ts';
import { formOf, said, withLine } from './state.ts';

interface Props {
  readonly view: WorkView;
  readonly onView: (next: WorkView) => void;
}

const keyOf = (attempt: number): string => `own work ${attempt}`;
function begun(attempt: number): Form | null {
  try {
    return JSON.parse(window.localStorage.getItem(keyOf(attempt)) ?? 'null') as Form | null;
  } catch {
    return null;
  }
}

/** A student's own judgement of their work, line by line with one thumb; what is begun stays on the device until it is kept. */
export function SelfForm({ view, onView }: Props) {
  const { id, state } = view.attempt;
  const isBack = state === 'back';
  const [form, setForm] = useState(() => formOf(view, begun(id)));
  const [problem, setProblem] = useState<string | null>(null);
  const [note, setNote] = useState('');
  const change = (next: Form): void => {
    setForm(next);
    setNote('');
    window.localStorage.setItem(keyOf(id), JSON.stringify(next));
  };
  const send = async (what: Form): Promise<void> => {
    setProblem(null);
    try {
      const next = await call<WorkView>(`/api/attempts/${id}/self`, what);
      window.localStorage.removeItem(keyOf(id));
      setNote(WORK.kept);
      onView(next);
    } catch (e) {
      setProblem((e as Error).message);
    }
  };
  return (
    <section className="panel p-3" aria-label={WORK.judge}>
      <h2 className="text-base font-bold">{WORK.judge}</h2>
      <p className="mb-2 text-soft">{WORK.judgeLead}</p>
      {view.questions.map((q) => {
        const line = form.lines.find((l) => l.line === q.id);
        return (
          <fieldset key={q.id} className="border-t border-line py-2">
            <legend className="float-left w-full font-semibold">{q.title}</legend>
            <div className="clear-both grid grid-cols-2 gap-1 min-[520px]:grid-cols-4">
              {q.words.map((w) => (
                <button
                  key={w.level}
                  type="button"
                  className="quiet !min-h-11 !px-1"
                  aria-pressed={line?.level === w.level}
                  onClick={() => change(withLine(form, q.id, { level: line?.level === w.level ? null : (w.level as 0 | 1 | 2 | 3) }))}
                >
                  {w.word}
                </button>
              ))}
            </div>
            {q.byHand && (
              <label className="mt-1 flex items-center justify-between gap-2 text-[13px] text-soft">
                {WORK.measured(q.byHand.words, q.byHand.unit)}
                <input
                  className="field figure !min-h-9 !w-24"
                  type="number"
                  inputMode="decimal"
                  step="any"
                  value={line?.figure ?? ''}
                  onChange={({ target }) => change(withLine(form, q.id, { figure: target.value === '' ? null : target.valueAsNumber }))}
                />
              </label>
            )}
          </fieldset>
        );
      })}
      <label className="flex items-center justify-between gap-2 border-t border-line py-2 font-semibold">
        {WORK.minutes}
        <input
          className="field figure !w-24"
          type="number"
          inputMode="numeric"
          min={1}
          max={600}
          value={form.minutes ?? ''}
          onChange={({ target }) => change({ ...form, minutes: target.value === '' ? null : Math.round(target.valueAsNumber) })}
        />
      </label>
      <Problem text={problem} />
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="act !min-h-11" disabled={said(form).lines.length === 0} onClick={() => void send(said(form))}>
          {isBack ? WORK.keepAndShow : WORK.keep}
        </button>
        {isBack && (
          <button type="button" className="quiet !min-h-11" onClick={() => void send({ lines: [], minutes: form.minutes })}>
            {WORK.skip}
          </button>
        )}
        <span className="text-soft" role="status">
          {note || (isBack ? '' : WORK.change)}
        </span>
      </div>
    </section>
  );
}
