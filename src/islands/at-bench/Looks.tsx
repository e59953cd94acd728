import { useEffect, useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { useToasts } from '#components/toast/Toasts.tsx';
import type { Asked, BenchWord } from '#contract/at-bench.ts';
import type { StepId } from '#core/plan/steps.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { STEP_WORDS } from '#words/steps.ts';
import { photoAddress } from './photo-address.ts';

/** ms between two looks at who asks. */
const LOOK = 5000;
const WORDS = ['go-on', 'correct', 'new-tooth'] as const;

/** Students who ask for a look, the longest waiting first; a word is one tap, with initials. */
export function Looks({ first, initials }: { readonly first: readonly Asked[]; readonly initials: string }) {
  const [asked, setAsked] = useState(first);
  const [own, setOwn] = useState(initials);
  const [notes, setNotes] = useState<Readonly<Record<string, string>>>({});
  const [error, setError] = useState<string | null>(null);
  const { say, toasts } = useToasts();
  useEffect(() => {
    const t = setInterval(() => void call<Asked[]>('/api/looks').then(setAsked, () => undefined), LOOK);
    return () => clearInterval(t);
  }, []);
  const give = async (a: Asked, word: BenchWord['word']): Promise<void> => {
    setError(null);
    try {
      await call(`/api/attempts/${a.attempt}/word`, { step: a.step, word, initials: own, note: notes[a.attempt] ?? '' });
      say(AT_BENCH.given(a.name));
      setAsked(await call<Asked[]>('/api/looks'));
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="text-xl font-bold">{AT_BENCH.looks}</h1>
        <label className="ml-auto flex items-center gap-2">
          <span className="text-soft">{AT_BENCH.initials}</span>
          <input className="field !w-20" maxLength={6} value={own} onChange={(e) => setOwn(e.target.value)} />
        </label>
      </div>
      <Problem text={error} />
      {asked.length === 0 ? (
        <p className="panel p-6 text-center text-soft">{AT_BENCH.nobody}</p>
      ) : (
        <ul className="panel">
          {asked.map((a) => (
            <li
              key={`${a.attempt} ${a.step}`}
              className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-line p-3 last:border-0"
              data-asked={a.student}
            >
              <span className="min-w-52 flex-1">
                <span className="figure font-semibold">{a.bench}</span> <strong>{a.name}</strong>
                <span className="block text-soft">
                  {a.exercise}, {STEP_WORDS[a.step as StepId]?.title ?? a.step},{' '}
                  {AT_BENCH.since((Date.now() - Date.parse(a.since)) / 60_000)}
                </span>
              </span>
              {a.photos.map((p, i) => (
                <a key={p} href={photoAddress(a.attempt, p)} target="_blank" rel="noreferrer">
                  <img
                    src={photoAddress(a.attempt, p)}
                    alt={AT_BENCH.photoOf(i + 1)}
                    className="h-14 w-18 border border-line object-cover"
                  />
                </a>
              ))}
              <a className="text-accent underline" href={`/work/${a.attempt}/bench`}>
                {AT_BENCH.openCard}
              </a>
              <input
                className="field !w-56"
                aria-label={`${AT_BENCH.note}, ${a.name}`}
                placeholder={AT_BENCH.note}
                maxLength={300}
                value={notes[a.attempt] ?? ''}
                onChange={(e) => setNotes({ ...notes, [a.attempt]: e.target.value })}
              />
              {WORDS.map((w) => (
                <button key={w} type="button" className={`${w === 'go-on' ? 'act' : 'quiet'} !min-h-11`} onClick={() => void give(a, w)}>
                  {AT_BENCH.word[w]}
                </button>
              ))}
            </li>
          ))}
        </ul>
      )}
      {toasts}
    </div>
  );
}
