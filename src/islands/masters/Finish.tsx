import { useState } from 'react';
import { MASTERS } from '#words/masters.ts';

interface Props {
  readonly id: string;
  readonly tooth: string;
  readonly finished: boolean;
  readonly asked: boolean;
  readonly busy: boolean;
  readonly exercises: readonly { readonly id: string; readonly title: string }[];
  readonly mayUse: boolean;
  readonly onFinish: () => Promise<void>;
  readonly onUse: (exercise: string) => Promise<boolean>;
}

/** The foot of the page: ends the drawing, then hands the master on. */
export function Finish({ id, tooth, finished, asked, busy, exercises, mayUse, onFinish, onUse }: Props) {
  const [exercise, setExercise] = useState(exercises[0]?.id ?? '');
  const [used, setUsed] = useState<string | null>(null);
  return (
    <section className="panel grid gap-2 p-3" aria-label="Finish">
      {!finished && (
        <button type="button" className="act" disabled={busy || asked} onClick={() => void onFinish()}>
          {busy ? MASTERS.finishing : MASTERS.finish}
        </button>
      )}
      {finished && (
        <>
          <p>{MASTERS.done}</p>
          <a className="quiet grid w-fit place-items-center" href={`/api/masters/${id}/archive`}>
            {MASTERS.zip}
          </a>
          {mayUse && exercises.length > 0 && (
            <div className="grid gap-2">
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
              <button
                type="button"
                className="act w-fit"
                disabled={busy || used === exercise}
                onClick={async () => {
                  if (await onUse(exercise)) setUsed(exercise);
                }}
              >
                {MASTERS.use}
              </button>
            </div>
          )}
          {exercises.length === 0 && <p className="text-soft">{MASTERS.noExercise(tooth)}</p>}
          {used && <p role="status">{MASTERS.used(exercises.find((e) => e.id === used)?.title ?? '')}</p>}
        </>
      )}
    </section>
  );
}
