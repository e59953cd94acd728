import { useState } from 'react';
import type { DraftView } from '#contract/master-draft.ts';
import { comparedWords, MASTERS } from '#words/masters.ts';
import { toothWords } from '#words/writing.ts';

interface Props {
  readonly draft: DraftView;
  readonly asked: boolean;
  readonly busy: boolean;
  readonly exercises: readonly { readonly id: string; readonly title: string }[];
  readonly mayUse: boolean;
  readonly onFinish: () => Promise<boolean>;
  readonly onCompare: (exercise: string) => Promise<boolean>;
  readonly onUse: (exercise: string) => Promise<boolean>;
}

/** The foot of the page: ends the drawing, tells what the master would change, then hands it on. */
export function Finish({ draft, asked, busy, exercises, mayUse, onFinish, onCompare, onUse }: Props) {
  const [exercise, setExercise] = useState(exercises[0]?.id ?? '');
  const [used, setUsed] = useState<string | null>(null);
  if (draft.master_id === null)
    return (
      <section className="panel grid gap-2 p-3" aria-label="Finish">
        <button type="button" className="act" disabled={busy || asked} onClick={() => void onFinish()}>
          {busy ? MASTERS.finishing : MASTERS.finish}
        </button>
      </section>
    );
  return (
    <section className="panel grid max-h-[60%] gap-2 overflow-y-auto p-3" aria-label="Finish">
      <p>{MASTERS.done}</p>
      <a className="quiet grid w-fit place-items-center" href={`/api/masters/${draft.id}/archive`}>
        {MASTERS.zip}
      </a>
      {exercises.length > 0 && (
        <>
          <label className="grid gap-1">
            {MASTERS.exercise}
            <select className="field" value={exercise} onChange={(e) => setExercise(e.target.value)}>
              {exercises.map((e) => (
                <option key={e.id} value={e.id}>
                  {e.title}
                </option>
              ))}
            </select>
          </label>
          <div className="flex flex-wrap gap-2">
            <button type="button" className="quiet" disabled={busy || used === exercise} onClick={() => void onCompare(exercise)}>
              {busy ? MASTERS.comparing : MASTERS.compare}
            </button>
            {mayUse && (
              <button
                type="button"
                className="act"
                disabled={busy || used === exercise}
                onClick={async () => {
                  if (await onUse(exercise)) setUsed(exercise);
                }}
              >
                {MASTERS.use}
              </button>
            )}
          </div>
          {draft.compared && (
            <ul className="grid gap-1" aria-label={MASTERS.compare}>
              {comparedWords(draft.compared).map((w) => (
                <li key={w}>{w}</li>
              ))}
            </ul>
          )}
        </>
      )}
      {exercises.length === 0 && <p className="text-soft">{MASTERS.noExercise(toothWords(draft.tooth))}</p>}
      {used && <p role="status">{MASTERS.used(exercises.find((e) => e.id === used)?.title ?? '')}</p>}
    </section>
  );
}
