import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import type { ConcernView } from '#contract/cohort-view.ts';
import { COHORT, concernWords } from '#words/cohort.ts';

const keyOf = (c: ConcernView): string => `${c.student}|${c.what}|${c.about}`;

/** Who needs a word, each with its reason; put aside with a note of what was done. */
export function Concerns({ course, all }: { readonly course: string; readonly all: readonly ConcernView[] }) {
  const [list, setList] = useState(all);
  const [open, setOpen] = useState<string | null>(null);
  const [note, setNote] = useState('');
  const [error, setError] = useState<string | null>(null);
  const put = async (c: ConcernView) => {
    setError(null);
    try {
      await call(`/api/courses/${course}/concerns`, { student: c.student, what: c.what, about: c.about, attempt: c.attempt, note });
      setList(list.map((q) => (q === c ? { ...c, aside: { note, by: '' } } : q)));
      setOpen(null);
      setNote('');
    } catch (e) {
      setError((e as Error).message);
    }
  };
  const waiting = list.filter((c) => c.aside === null);
  const aside = list.filter((c) => c.aside !== null);
  const line = (c: ConcernView) => (
    <>
      <a className="text-accent underline" href={c.attempt ? `/bench/${c.attempt}` : `/trail/${c.student}`}>
        {c.name}
      </a>{' '}
      <span className="text-soft">{concernWords(c)}</span>
    </>
  );
  return (
    <section className="panel p-3" aria-label={COHORT.word}>
      <h2 className="mb-1 font-semibold">{COHORT.word}</h2>
      {waiting.length === 0 && <p className="text-soft">{COHORT.nobody}</p>}
      <Problem text={error} />
      <ul className="max-h-96 overflow-y-auto">
        {waiting.map((c) => (
          <li key={keyOf(c)} className="border-b border-line py-1 last:border-0">
            {line(c)}{' '}
            {open === keyOf(c) ? (
              <span className="mt-1 grid gap-1">
                <input
                  className="field !min-h-8"
                  aria-label={`${COHORT.asideNote}, ${c.name}`}
                  placeholder={COHORT.asideNote}
                  maxLength={400}
                  value={note}
                  onChange={(e) => setNote(e.target.value)}
                />
                <span className="flex gap-2">
                  <button type="button" className="act !min-h-8" disabled={note.trim() === ''} onClick={() => void put(c)}>
                    {COHORT.keep}
                  </button>
                  <button type="button" className="quiet !min-h-8" onClick={() => setOpen(null)}>
                    {COHORT.cancel}
                  </button>
                </span>
              </span>
            ) : (
              <button
                type="button"
                className="quiet !min-h-6 !px-2 text-[13px]"
                aria-label={`${COHORT.aside}, ${c.name}, ${concernWords(c)}`}
                onClick={() => setOpen(keyOf(c))}
              >
                {COHORT.aside}
              </button>
            )}
          </li>
        ))}
      </ul>
      {aside.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-soft">{COHORT.asides(aside.length)}</summary>
          <ul>
            {aside.map((c) => (
              <li key={keyOf(c)} className="border-t border-line py-1">
                {line(c)}
                <br />
                {c.aside && (c.aside.by ? COHORT.said(c.aside.note, c.aside.by) : c.aside.note)}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
