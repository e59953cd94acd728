import { useEffect, useMemo, useReducer, useState } from 'react';
import * as v from 'valibot';
import { call } from '#components/call.ts';
import { RubricFile } from '#contract/rubric.ts';
import type { RubricPreview, RubricView } from '#contract/rubric-view.ts';
import { unitOf } from '#core/catalogue/catalogue.ts';
import { concerns, isGrave, placeKey } from '#core/score/concerns.ts';
import { readingWords, unitWords } from '#words/readings.ts';
import { concernWords, RUBRIC_WORDS } from '#words/rubric.ts';
import { Critical } from './Critical.tsx';
import { PickReading } from './PickReading.tsx';
import { Strip } from './Strip.tsx';
import { type Act, type BandName, begin, differences, type End, reduce } from './state.ts';

/** ms without a change after which past attempts are scored again. */
const PREVIEW_AFTER = 700;

interface Props {
  readonly course: string;
  readonly first: RubricView;
  readonly mayKeep: boolean;
}

/** A rubric over what past attempts read: weights and bands are moved, and whose marks would move is seen at once. */
export function Rubric({ course, first, mayKeep }: Props) {
  const [view, setView] = useState(first);
  const [state, act] = useReducer(reduce, first.body, begin);
  const [preview, setPreview] = useState<RubricPreview | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [said, setSaid] = useState('');
  const base = `/api/courses/${course}/rubrics/${view.id}`;
  const past = useMemo(() => new Map(view.past.map((p) => [p.place, p])), [view.past]);
  const found = useMemo(
    () => concerns(state.body, new Map(view.past.flatMap((p) => (p.U === null ? [] : [[p.place, p.U]])))),
    [state.body, view.past],
  );
  const changed = useMemo(() => differences(state.saved, state.body), [state.saved, state.body]);
  useEffect(() => {
    if (!mayKeep || changed.length === 0) {
      setPreview(null);
      return;
    }
    const t = setTimeout(() => {
      call<RubricPreview>(`${base}/preview`, { body: state.body })
        .then((p) => {
          setPreview(p);
          setError(null);
        })
        .catch((e) => setError((e as Error).message));
    }, PREVIEW_AFTER);
    return () => clearTimeout(t);
  }, [base, changed.length, mayKeep, state.body]);

  const keep = async () => {
    setError(null);
    try {
      const { version } = await call<{ version: number }>(base, { body: state.body, version: view.version });
      act({ type: 'kept' });
      setView(await call<RubricView>(base));
      setSaid(RUBRIC_WORDS.kept(version));
    } catch (e) {
      setError((e as Error).message);
    }
  };
  const load = async (file: File) => {
    setError(null);
    try {
      const body = v.parse(RubricFile, JSON.parse(await file.text()));
      act({ type: 'load', body: { ...body, id: view.id } });
    } catch (e) {
      setError(RUBRIC_WORDS.notRead(file.name, (e as Error).message));
    }
  };
  const json = (): string => URL.createObjectURL(new Blob([JSON.stringify(state.body, null, 2)], { type: 'application/json' }));
  const sum = state.body.criteria.reduce((n, c) => n + c.weight, 0);
  const signed = view.versions[0]?.signed ?? 0;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-3">
        <a className="text-accent underline" href={`/courses/${course}#plan`}>
          {RUBRIC_WORDS.back}
        </a>
        <h1 className="text-xl font-bold">{state.body.name}</h1>
        <span className="text-soft">{RUBRIC_WORDS.version(view.version, signed)}</span>
        <span className="text-soft">{view.exercises.map((e) => e.title).join(', ')}</span>
        <span className="ml-auto text-good" role="status">
          {said}
        </span>
      </div>
      {error && (
        <p role="alert" className="mb-3 border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_320px]">
        <section className="panel p-4" aria-label={RUBRIC_WORDS.lines}>
          {state.body.criteria.map((c) => (
            <div key={c.id} className="grid gap-2 border-t border-line py-3 first:border-0 first:pt-0">
              <div className="flex items-baseline gap-3">
                <h2 className="flex-1 font-semibold">{c.title}</h2>
                {mayKeep && (
                  <button
                    type="button"
                    className="quiet !min-h-7"
                    aria-label={`${RUBRIC_WORDS.remove}, ${c.title}`}
                    onClick={() => act({ type: 'remove-line', criterion: c.id })}
                  >
                    {RUBRIC_WORDS.remove}
                  </button>
                )}
                <label className="flex items-baseline gap-2 text-soft">
                  <span className="figure">{RUBRIC_WORDS.share(c.weight, sum)}</span> {RUBRIC_WORDS.weight}
                  <input
                    className="field figure !w-20"
                    type="number"
                    min={0}
                    max={100}
                    step={1}
                    disabled={!mayKeep}
                    aria-label={`${RUBRIC_WORDS.weight}, ${c.title}`}
                    value={c.weight}
                    onChange={(e) => act({ type: 'weight', criterion: c.id, weight: Math.max(0, e.target.valueAsNumber || 0) })}
                  />
                </label>
              </div>
              {c.asks && (
                <p className="text-soft">
                  {RUBRIC_WORDS.asks(
                    c.asks.question,
                    c.asks.words.map((w) => w.word),
                  )}
                </p>
              )}
              {c.targets.map((t, i) => {
                const own = past.get(placeKey(t));
                const name = readingWords(t.reading, t.zone, t.stat);
                const unit = unitWords(unitOf(t.reading, t.stat));
                const wrong = found.filter((q) => q.criterion === c.id && 'target' in q && q.target === i);
                return (
                  <div key={`${placeKey(t)}|${i}`} className="grid gap-1 pl-3">
                    <div className="flex flex-wrap items-center gap-3">
                      <span className="min-w-52 flex-1">{name}</span>
                      {mayKeep && c.targets.length > 1 && (
                        <button
                          type="button"
                          className="quiet !min-h-7"
                          aria-label={`${RUBRIC_WORDS.remove}, ${name}`}
                          onClick={() => act({ type: 'remove-target', criterion: c.id, target: i })}
                        >
                          {RUBRIC_WORDS.remove}
                        </button>
                      )}
                      <Strip
                        values={own?.values ?? []}
                        bands={[t.band, t.fair, t.poor]}
                        label={RUBRIC_WORDS.distribution(name, own?.values ?? [], t.band, unit)}
                      />
                    </div>
                    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
                      {(['band', 'fair', 'poor'] as const).map((b) => (
                        <Ends
                          key={b}
                          name={b}
                          target={t}
                          label={`${name}, ${RUBRIC_WORDS.bands[b]}`}
                          disabled={!mayKeep}
                          onEnd={(end, value) => act({ type: 'end', criterion: c.id, target: i, band: b, end, value })}
                        />
                      ))}
                      <span className="text-soft">{unit}</span>
                    </div>
                    {wrong.map((q) => (
                      <p key={q.kind} className={`border-l-4 pl-2 ${isGrave(q) ? 'border-bad' : 'border-under'}`}>
                        {concernWords(q, unit)}
                      </p>
                    ))}
                  </div>
                );
              })}
              {mayKeep && !c.asks && (
                <details className="pl-3">
                  <summary className="cursor-pointer text-soft">{RUBRIC_WORDS.addReading}</summary>
                  <PickReading
                    label={`${RUBRIC_WORDS.addReading}, ${c.title}`}
                    onPick={(place) => act({ type: 'add-target', criterion: c.id, place })}
                  />
                </details>
              )}
            </div>
          ))}
          {mayKeep && <NewLine act={act} />}
          <Critical errors={state.body.critical} disabled={!mayKeep} act={act} />
        </section>
        <div className="grid gap-4 min-[1000px]:sticky min-[1000px]:top-2">
          <section className="panel grid gap-3 p-4">
            <label className="flex items-center justify-between gap-2">
              {RUBRIC_WORDS.pass}
              <input
                className="field figure !w-24"
                type="number"
                min={0}
                max={100}
                disabled={!mayKeep}
                value={state.body.passMark}
                onChange={(e) => act({ type: 'pass', mark: Math.min(100, Math.max(0, e.target.valueAsNumber || 0)) })}
              />
            </label>
            {state.body.levels.map((l) => (
              <label key={l.level} className="flex items-center justify-between gap-2">
                <span>
                  {RUBRIC_WORDS.level(l.level)} <span className="figure text-soft">{Math.round(100 * l.share)} %</span>
                </span>
                <input
                  className="field !w-32"
                  disabled={!mayKeep}
                  value={l.word}
                  onChange={(e) => act({ type: 'word', level: l.level, word: e.target.value })}
                />
              </label>
            ))}
          </section>
          <section className="panel grid gap-2 p-4" aria-label={RUBRIC_WORDS.preview} aria-live="polite">
            <h2 className="font-semibold">{RUBRIC_WORDS.preview}</h2>
            <p>{changed.length === 0 ? RUBRIC_WORDS.basis(view.attempts) : preview ? RUBRIC_WORDS.rates(preview) : RUBRIC_WORDS.scoring}</p>
            {preview && preview.moved.length > 0 && (
              <ul className="max-h-48 overflow-y-auto">
                {preview.moved.map((m) => (
                  <li key={m.attempt} className="flex justify-between gap-2 border-t border-line py-0.5">
                    <a className="text-accent underline" href={`/bench/${m.attempt}`}>
                      {m.student}
                    </a>
                    <span className="figure">
                      {m.before ?? '–'} → {m.after ?? '–'}
                      {m.passedBefore !== m.passedAfter && <span className="text-bad"> {RUBRIC_WORDS.now(m.passedAfter)}</span>}
                    </span>
                  </li>
                ))}
              </ul>
            )}
            {changed.length > 0 && (
              <ul className="max-h-40 overflow-y-auto text-soft">
                {changed.map((d) => (
                  <li key={`${d.criterion}|${d.what}|${d.after}|${d.before}`}>
                    {d.title ? `${d.title}, ` : ''}
                    {RUBRIC_WORDS.what(d.what)}: {d.before} → {d.after}
                  </li>
                ))}
              </ul>
            )}
            {mayKeep && (
              <div className="flex flex-wrap gap-2">
                <button type="button" className="act" disabled={changed.length === 0 || found.some(isGrave)} onClick={() => void keep()}>
                  {RUBRIC_WORDS.keep(view.version + 1)}
                </button>
                <button type="button" className="quiet" disabled={state.past.length === 0} onClick={() => act({ type: 'undo' })}>
                  {RUBRIC_WORDS.undo}
                </button>
              </div>
            )}
          </section>
          <section className="panel grid gap-2 p-4">
            <a className="quiet grid w-fit place-items-center" href={json()} download={`${view.id}.json`}>
              {RUBRIC_WORDS.out}
            </a>
            <a className="text-accent underline" href={`/courses/${course}/rubrics/${view.id}/form`}>
              {RUBRIC_WORDS.form}
            </a>
            {mayKeep && (
              <label className="grid gap-1">
                {RUBRIC_WORDS.in}
                <input
                  className="field py-2"
                  type="file"
                  accept=".json"
                  onChange={(e) => {
                    const file = e.target.files?.[0];
                    if (file) void load(file);
                    e.target.value = '';
                  }}
                />
              </label>
            )}
          </section>
        </div>
      </div>
    </>
  );
}

/** A line of the course's own: a reading with its band, or a question that a person answers in a word. */
function NewLine({ act }: { act: (a: Act) => void }) {
  const [title, setTitle] = useState('');
  const [question, setQuestion] = useState('');
  const named = title.trim();
  return (
    <details className="border-t border-line py-3">
      <summary className="cursor-pointer font-semibold">{RUBRIC_WORDS.addLine}</summary>
      <div className="mt-2 grid gap-2">
        <label className="grid gap-1">
          {RUBRIC_WORDS.lineTitle}
          <input className="field" maxLength={80} value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <PickReading
          label={RUBRIC_WORDS.addLine}
          onPick={(place) => {
            if (named) act({ type: 'add-line', title: named, place });
            setTitle('');
          }}
        />
        <div className="flex items-end gap-2">
          <label className="grid flex-1 gap-1">
            {RUBRIC_WORDS.orQuestion}
            <input className="field" maxLength={160} value={question} onChange={(e) => setQuestion(e.target.value)} />
          </label>
          <button
            type="button"
            className="quiet"
            disabled={!named || !question.trim()}
            onClick={() => {
              act({ type: 'add-question', title: named, question: question.trim() });
              setTitle('');
              setQuestion('');
            }}
          >
            {RUBRIC_WORDS.add}
          </button>
        </div>
      </div>
    </details>
  );
}

type EndAct = Extract<Act, { type: 'end' }>;
function Ends({
  name,
  target,
  label,
  disabled,
  onEnd,
}: {
  name: BandName;
  target: RubricFile['criteria'][number]['targets'][number];
  label: string;
  disabled: boolean;
  onEnd: (end: End, value: EndAct['value']) => void;
}) {
  const b = target[name];
  return (
    <fieldset className="flex items-center gap-1">
      <legend className="sr-only">{label}</legend>
      <span className="text-soft">{RUBRIC_WORDS.bands[name]}</span>
      {(['lo', 'hi'] as const).map((end) => (
        <input
          key={end}
          className="field figure !min-h-8 !w-20"
          type="number"
          step="any"
          disabled={disabled}
          placeholder={RUBRIC_WORDS.open}
          aria-label={`${label}, ${RUBRIC_WORDS.ends[end]}`}
          value={b[end] ?? ''}
          onChange={(e) => onEnd(end, e.target.value === '' ? null : e.target.valueAsNumber)}
        />
      ))}
    </fieldset>
  );
}
