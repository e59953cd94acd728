import { type ReactNode, useMemo, useReducer, useState } from 'react';
import * as v from 'valibot';
import { call } from '#components/call.ts';
import { BandEnds } from '#components/form/BandEnds.tsx';
import { JsonFile } from '#components/JsonFile.tsx';
import { Problem } from '#components/Problem.tsx';
import { limitless, StandardFile } from '#contract/standard.ts';
import type { StandardView } from '#contract/standard-view.ts';
import { titleOf } from '#core/catalogue/catalogue.ts';
import { readingWords, unitWords } from '#words/readings.ts';
import { STANDARD_WORDS } from '#words/standard.ts';
import { dayWords } from '#words/writing.ts';
import { NewError } from '../rubric/Critical.tsx';
import { EffectChoice } from '../rubric/EffectChoice.tsx';
import { PickReading } from '../rubric/PickReading.tsx';
import { NewRubric } from './NewRubric.tsx';
import { type Act, begin, differences, type Field, type Place, reduce } from './state.ts';

interface Props {
  readonly course: string;
  readonly first: StandardView;
  readonly mayKeep: boolean;
}

/** A standard: its lines with their figures, where each figure comes from, and what a change would alter against what is kept. */
export function Standard({ course, first, mayKeep }: Props) {
  const [view, setView] = useState(first);
  const [state, act] = useReducer(reduce, first.body, begin);
  const [error, setError] = useState<string | null>(null);
  const [said, setSaid] = useState('');
  const { body } = state;
  const address = `/api/courses/${course}/standards/${body.id}`;
  const changed = useMemo(() => differences(state.saved, body), [state.saved, body]);
  const open = useMemo(() => limitless(body), [body]);
  const against = useMemo(() => (view.shipped ? differences(view.shipped, state.saved) : []), [view.shipped, state.saved]);
  const keep = async () => {
    setError(null);
    try {
      const { version } = await call<{ version: number }>(address, { body, version: view.version });
      act({ type: 'kept' });
      setView(await call<StandardView>(address));
      setSaid(STANDARD_WORDS.kept(version));
    } catch (e) {
      setError((e as Error).message);
    }
  };
  const load = async (file: File) => {
    setError(null);
    try {
      act({ type: 'load', body: { ...v.parse(StandardFile, JSON.parse(await file.text())), id: body.id } });
    } catch (e) {
      setError(STANDARD_WORDS.notRead(file.name, (e as Error).message));
    }
  };
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-3">
        <a className="text-accent underline" href={`/courses/${course}/standards`}>
          {STANDARD_WORDS.back}
        </a>
        <h1 className="text-xl font-bold">{body.name}</h1>
        <span className="text-soft">{STANDARD_WORDS.version(view.version)}</span>
        <span className="ml-auto text-good" role="status">
          {said}
        </span>
      </div>
      <Problem text={error} />
      <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_320px]">
        <section className="panel p-4" aria-label={STANDARD_WORDS.lines}>
          {body.lines.map((l) => (
            <div key={l.id} className="grid gap-1 border-t border-line py-3 first:border-0 first:pt-0">
              <div className="flex items-center gap-2">
                <input
                  className="field !min-h-8 flex-1 font-semibold"
                  aria-label={`${STANDARD_WORDS.lineTitle}, ${l.title}`}
                  disabled={!mayKeep}
                  value={l.title}
                  onChange={(e) => act({ type: 'text', line: l.id, what: 'title', text: e.target.value })}
                />
                {mayKeep && (
                  <button
                    type="button"
                    className="quiet !min-h-7"
                    aria-label={`${STANDARD_WORDS.remove}, ${l.title}`}
                    onClick={() => act({ type: 'remove-line', line: l.id })}
                  >
                    {STANDARD_WORDS.remove}
                  </button>
                )}
              </div>
              <input
                className="field !min-h-8 text-soft"
                aria-label={`${STANDARD_WORDS.why}, ${l.title}`}
                placeholder={STANDARD_WORDS.why}
                disabled={!mayKeep}
                value={l.why}
                onChange={(e) => act({ type: 'text', line: l.id, what: 'why', text: e.target.value })}
              />
              {l.asks && (
                <p className="pl-3 text-soft">
                  {STANDARD_WORDS.question}: {l.asks.question}
                </p>
              )}
              {l.fields.map((f) => (
                <Figure
                  key={f.id}
                  field={f}
                  name={readingWords(f.reading, f.zone, f.stat)}
                  mayKeep={mayKeep}
                  act={act}
                  onRemove={l.fields.length > 1 ? () => act({ type: 'remove-field', line: l.id, field: f.id }) : null}
                />
              ))}
              {mayKeep && !l.asks && (
                <details className="pl-3">
                  <summary className="cursor-pointer text-soft">{STANDARD_WORDS.addReading}</summary>
                  <PickReading
                    label={`${STANDARD_WORDS.addReading}, ${l.title}`}
                    onPick={(place) => act({ type: 'add-field', line: l.id, place })}
                  />
                </details>
              )}
            </div>
          ))}
          {mayKeep && <NewLine onAdd={(title, place) => act({ type: 'add-line', title, place })} />}
          <h2 className="border-t border-line pt-3 font-semibold">{STANDARD_WORDS.critical}</h2>
          {body.critical.map((c) => (
            <Figure
              key={c.id}
              field={{ ...c, band: c.allowed }}
              name={`${c.title} (${readingWords(c.reading, c.zone, c.stat)})`}
              mayKeep={mayKeep}
              act={act}
              onRemove={null}
            >
              <EffectChoice
                title={c.title}
                effect={c.effect}
                disabled={!mayKeep}
                onEffect={(effect) => act({ type: 'effect', error: c.id, effect })}
              />
            </Figure>
          ))}
          {mayKeep && <NewError onAdd={(title, place) => act({ type: 'add-error', title, place })} />}
        </section>
        <div className="grid gap-4 min-[1000px]:sticky min-[1000px]:top-2">
          <section className="panel grid gap-2 p-4" aria-label={STANDARD_WORDS.changes} aria-live="polite">
            <h2 className="font-semibold">{STANDARD_WORDS.changes}</h2>
            {changed.length === 0 && <p className="text-soft">{STANDARD_WORDS.none}</p>}
            <ul className="max-h-60 overflow-y-auto">
              {changed.map((d) => (
                <li key={`${d.what}|${d.before}|${d.after}`} className="border-t border-line py-0.5">
                  {d.what}: <span className="figure">{d.before || '–'}</span> → <span className="figure">{d.after || '–'}</span>
                </li>
              ))}
            </ul>
            {open.length > 0 && <p className="border-l-4 border-bad pl-2">{STANDARD_WORDS.limitless(open)}</p>}
            {mayKeep && (
              <div className="flex flex-wrap gap-2">
                <button type="button" className="act" disabled={changed.length === 0 || open.length > 0} onClick={() => void keep()}>
                  {STANDARD_WORDS.keep(view.version + 1)}
                </button>
                <button type="button" className="quiet" disabled={state.past.length === 0} onClick={() => act({ type: 'undo' })}>
                  {STANDARD_WORDS.undo}
                </button>
                {view.shipped && view.version > 0 && (
                  <button type="button" className="quiet" onClick={() => view.shipped && act({ type: 'load', body: view.shipped })}>
                    {STANDARD_WORDS.asShipped}
                  </button>
                )}
              </div>
            )}
          </section>
          <section className="panel grid gap-2 p-4">
            <h2 className="font-semibold">{STANDARD_WORDS.rubrics}</h2>
            {view.rubrics.length === 0 && <p className="text-soft">{STANDARD_WORDS.noRubric}</p>}
            <ul>
              {view.rubrics.map((r) => (
                <li key={r.id} className="flex justify-between gap-2">
                  <a className="text-accent underline" href={`/courses/${course}/rubrics/${r.id}`}>
                    {r.name}
                  </a>
                  <span className="text-soft">{STANDARD_WORDS.uses(r.exercises)}</span>
                </li>
              ))}
            </ul>
            {mayKeep && <NewRubric course={course} standard={body.id} />}
          </section>
          {view.versions.length > 0 && (
            <section className="panel grid gap-2 p-4" aria-label={STANDARD_WORDS.versions}>
              <h2 className="font-semibold">{STANDARD_WORDS.versions}</h2>
              <ul>
                {view.versions.map((q) => (
                  <li key={q.version}>{STANDARD_WORDS.made(q.version, q.by, dayWords(q.made_at))}</li>
                ))}
              </ul>
              {view.shipped && (
                <details>
                  <summary className="cursor-pointer text-soft">{STANDARD_WORDS.against(against.length)}</summary>
                  <ul>
                    {against.map((d) => (
                      <li key={`${d.what}|${d.before}|${d.after}`} className="border-t border-line py-0.5">
                        {d.what}: <span className="figure">{d.before || '–'}</span> → <span className="figure">{d.after || '–'}</span>
                      </li>
                    ))}
                  </ul>
                </details>
              )}
            </section>
          )}
          <section className="panel grid gap-2 p-4">
            <p className="text-soft">{body.note}</p>
            <JsonFile
              body={body}
              name={body.id}
              out={STANDARD_WORDS.out}
              into={mayKeep ? STANDARD_WORDS.in : null}
              onFile={(file) => void load(file)}
            />
          </section>
        </div>
      </div>
    </>
  );
}

interface FigureProps {
  readonly field: Pick<Field, 'id' | 'unit' | 'band' | 'from'>;
  readonly name: string;
  readonly mayKeep: boolean;
  readonly act: (a: Act) => void;
  readonly onRemove: (() => void) | null;
  readonly children?: ReactNode;
}

/** One figure of a standard: what is read, its band, and where the figure comes from. */
function Figure({ field: f, name, mayKeep, act, onRemove, children }: FigureProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pl-3">
      <span className="min-w-52 flex-1">{name}</span>
      <BandEnds
        band={f.band}
        disabled={!mayKeep}
        open={STANDARD_WORDS.open}
        label={(end) => `${name}, ${STANDARD_WORDS.ends[end]}`}
        onEnd={(end, value) => act({ type: 'end', field: f.id, end, value })}
      />
      <span className="w-8 text-soft">{unitWords(f.unit)}</span>
      <select
        className="field !min-h-8 !w-auto"
        aria-label={`${STANDARD_WORDS.fromLabel}, ${name}`}
        disabled={!mayKeep}
        value={f.from}
        onChange={(e) => act({ type: 'from', field: f.id, from: e.target.value as 'school' | 'course' })}
      >
        {(['school', 'course'] as const).map((k) => (
          <option key={k} value={k}>
            {STANDARD_WORDS.from[k]}
          </option>
        ))}
      </select>
      {children}
      {mayKeep && onRemove && (
        <button type="button" className="quiet !min-h-7" aria-label={`${STANDARD_WORDS.remove}, ${name}`} onClick={onRemove}>
          {STANDARD_WORDS.remove}
        </button>
      )}
    </div>
  );
}

function NewLine({ onAdd }: { readonly onAdd: (title: string, place: Place) => void }) {
  const [title, setTitle] = useState('');
  return (
    <details className="border-t border-line py-3">
      <summary className="cursor-pointer font-semibold">{STANDARD_WORDS.addLine}</summary>
      <div className="mt-2 grid gap-2">
        <label className="grid gap-1">
          {STANDARD_WORDS.lineTitle}
          <input className="field" maxLength={80} value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <PickReading
          label={STANDARD_WORDS.addLine}
          onPick={(place) => {
            onAdd(title.trim() || titleOf(place.reading), place);
            setTitle('');
          }}
        />
      </div>
    </details>
  );
}
