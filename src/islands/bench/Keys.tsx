import { useState } from 'react';
import { Modal } from '#components/dialog/Modal.tsx';
import { BENCH_KEYS, type BenchKey, FIXED_KEYS, KEY_WORDS } from '#words/keys.ts';
import { type KeyChoice, keyOf, takenBy, USUAL, withKey } from './keys.ts';

/** The keys of the Bench: what they do, other letters for them, and all of them switched off. */
export function Keys({ choice, onChoice, onClose }: { choice: KeyChoice; onChoice: (c: KeyChoice) => void; onClose: () => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  const change = (id: BenchKey, letter: string): void => {
    const own = letter.slice(-1).toLowerCase();
    const taken = own ? takenBy(choice, id, own) : null;
    setProblem(taken ? KEY_WORDS.taken(own, BENCH_KEYS.find(([k]) => k === taken)?.[2] ?? taken) : null);
    if (own) onChoice(withKey(choice, id, own));
  };
  return (
    <Modal label={KEY_WORDS.title} wide onClose={onClose}>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <h2 className="text-lg font-bold">{KEY_WORDS.title}</h2>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-accent"
            checked={choice.on}
            onChange={(e) => onChoice({ ...choice, on: e.target.checked })}
          />
          {KEY_WORDS.on}
        </label>
        <button type="button" className="quiet ml-auto" onClick={() => onChoice({ ...USUAL, on: choice.on })}>
          {KEY_WORDS.back}
        </button>
        <form method="dialog">
          <button type="submit" className="act">
            {KEY_WORDS.close}
          </button>
        </form>
      </div>
      {!choice.on && <p className="mb-2 text-soft">{KEY_WORDS.off}</p>}
      <p role="alert" className="min-h-5 text-bad">
        {problem}
      </p>
      <dl className="mb-3 grid grid-cols-[80px_1fr] gap-x-3 gap-y-1 sm:grid-cols-[80px_1fr_80px_1fr]">
        {FIXED_KEYS.map(([k, what]) => (
          <div key={k} className="contents">
            <dt className="figure font-semibold">{k}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <ul className="grid gap-x-6 gap-y-1 border-t border-line pt-3 sm:grid-cols-2">
        {BENCH_KEYS.map(([id, , what]) => (
          <li key={id} className="flex items-center gap-2">
            <input
              className="figure h-8 w-9 rounded-sm border border-line text-center font-semibold disabled:text-soft"
              aria-label={`Letter for: ${what}`}
              disabled={!choice.on}
              value={keyOf(choice, id)}
              onChange={(e) => change(id, e.target.value)}
            />
            <span>{what}</span>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
