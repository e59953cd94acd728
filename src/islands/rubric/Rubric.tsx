import { useEffect, useMemo, useReducer, useState } from 'react';
import * as v from 'valibot';
import { call } from '#components/call.ts';
import { JsonFile } from '#components/JsonFile.tsx';
import { Problem } from '#components/Problem.tsx';
import { writeAsOwn } from '#components/writing.ts';
import { RubricFile } from '#contract/rubric.ts';
import type { RubricPreview, RubricView } from '#contract/rubric-view.ts';
import { concerns, isGrave } from '#core/score/concerns.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import { Criterion } from './Criterion.tsx';
import { Critical } from './Critical.tsx';
import { Levels } from './Levels.tsx';
import { NewLine } from './NewLine.tsx';
import { begin, differences, reduce } from './state.ts';

writeAsOwn();

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
  const again = async () => {
    setError(null);
    try {
      act({ type: 'load', body: await call<RubricFile>(`${base}/proposed`) });
    } catch (e) {
      setError((e as Error).message);
    }
  };
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
      <Problem text={error} />
      <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_320px]">
        <section className="panel p-4" aria-label={RUBRIC_WORDS.lines}>
          {state.body.criteria.map((c) => (
            <Criterion
              key={c.id}
              criterion={c}
              share={RUBRIC_WORDS.share(c.weight, sum)}
              past={past}
              concerns={found.filter((q) => q.criterion === c.id)}
              mayKeep={mayKeep}
              act={act}
            />
          ))}
          {mayKeep && <NewLine act={act} />}
          <Critical errors={state.body.critical} concerns={found} disabled={!mayKeep} act={act} />
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
            <Levels
              levels={state.body.levels}
              concerns={found}
              isByShares={state.body.scoring?.kind !== 'deduct'}
              disabled={!mayKeep}
              act={act}
            />
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
            <JsonFile
              body={state.body}
              name={view.id}
              out={RUBRIC_WORDS.out}
              into={mayKeep ? RUBRIC_WORDS.in : null}
              onFile={(file) => void load(file)}
            />
            <a className="text-accent underline" href={`/courses/${course}/rubrics/${view.id}/form`}>
              {RUBRIC_WORDS.form}
            </a>
            <a className="text-accent underline" href={`/courses/${course}/standards/${state.body.standard}`}>
              {RUBRIC_WORDS.standard}
            </a>
            {mayKeep && (
              <button type="button" className="quiet w-fit" onClick={() => void again()}>
                {RUBRIC_WORDS.again}
              </button>
            )}
          </section>
        </div>
      </div>
    </>
  );
}
