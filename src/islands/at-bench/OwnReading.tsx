import { useState } from 'react';
import { Problem } from '#components/Problem.tsx';
import type { Entry } from '#contract/at-bench.ts';
import { AT_BENCH } from '#words/at-bench.ts';

const METHODS = ['gauge', 'probe', 'wax', 'feel'] as const;
const EMPTY = { place: '', lo: '', hi: '', felt: '' };

const number = (text: string): number | null => {
  const n = Number(text.replace(',', '.'));
  return text.trim() === '' || !Number.isFinite(n) ? null : n;
};

/** What the student read at this step themselves, as an interval: passes 1.0, not 1.5; or how it felt. */
export function OwnReading({ entries, onAdd }: { readonly entries: readonly Entry[]; readonly onAdd: ((e: Entry) => void) | null }) {
  const [method, setMethod] = useState<Entry['method']>('gauge');
  const [form, setForm] = useState(EMPTY);
  const [problem, setProblem] = useState<string | null>(null);
  const field = (name: keyof typeof EMPTY, label: string, isFigure = false) => (
    <label className={name === 'felt' ? 'col-span-2 grid' : 'grid'}>
      <span className="text-soft">{label}</span>
      <input
        className={`field ${isFigure ? 'figure' : ''}`}
        inputMode={isFigure ? 'decimal' : 'text'}
        maxLength={80}
        value={form[name]}
        onChange={(e) => setForm({ ...form, [name]: e.target.value })}
      />
    </label>
  );
  return (
    <section className="panel grid gap-2 p-4" aria-label={AT_BENCH.own}>
      <h2 className="font-bold">{AT_BENCH.own}</h2>
      <ul>
        {entries.map((e, i) => (
          <li key={i} className="figure">
            {AT_BENCH.entry(e)}
          </li>
        ))}
      </ul>
      {onAdd && (
        <form
          className="grid grid-cols-2 gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const entry: Entry = { method, place: form.place, lo: number(form.lo), hi: number(form.hi), felt: form.felt };
            if (entry.lo === null && entry.hi === null && !entry.felt) return setProblem(AT_BENCH.needsFigure);
            setProblem(null);
            setForm(EMPTY);
            onAdd(entry);
          }}
        >
          <label className="grid">
            <span className="text-soft">{AT_BENCH.method}</span>
            <select className="field" value={method} onChange={(e) => setMethod(e.target.value as Entry['method'])}>
              {METHODS.map((m) => (
                <option key={m} value={m}>
                  {AT_BENCH.methods[m]}
                </option>
              ))}
            </select>
          </label>
          {field('place', AT_BENCH.place)}
          {field('lo', AT_BENCH.passes, true)}
          {field('hi', AT_BENCH.stops, true)}
          {field('felt', AT_BENCH.felt)}
          <Problem text={problem} />
          <button type="submit" className="quiet col-span-2 !min-h-12">
            {AT_BENCH.add}
          </button>
        </form>
      )}
    </section>
  );
}
