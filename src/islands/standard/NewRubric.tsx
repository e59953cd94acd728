import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { STANDARD_WORDS } from '#words/standard.ts';

/** Proposes a rubric from a standard and goes to it. */
export function NewRubric({ course, standard }: { readonly course: string; readonly standard: string }) {
  const [name, setName] = useState('');
  const [id, setId] = useState('');
  const [style, setStyle] = useState<'practice' | 'examination'>('practice');
  const [error, setError] = useState<string | null>(null);
  const short =
    id ||
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '');
  const make = async () => {
    setError(null);
    try {
      const made = await call<{ id: string }>(`/api/courses/${course}/standards/${standard}/rubric`, { id: short, name, style });
      window.location.assign(`/courses/${course}/rubrics/${made.id}`);
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <details>
      <summary className="cursor-pointer font-semibold">{STANDARD_WORDS.newRubric}</summary>
      <div className="mt-2 grid gap-2">
        <label className="grid gap-1">
          {STANDARD_WORDS.rubricName}
          <input className="field" maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="grid gap-1">
          {STANDARD_WORDS.rubricId}
          <input className="field figure" maxLength={60} placeholder={short} value={id} onChange={(e) => setId(e.target.value)} />
        </label>
        <label className="grid gap-1">
          {STANDARD_WORDS.style}
          <select className="field" value={style} onChange={(e) => setStyle(e.target.value as typeof style)}>
            {(['practice', 'examination'] as const).map((s) => (
              <option key={s} value={s}>
                {STANDARD_WORDS.styles[s]}
              </option>
            ))}
          </select>
        </label>
        <Problem text={error} />
        <button type="button" className="act w-fit" disabled={!name.trim() || short.length < 2} onClick={() => void make()}>
          {STANDARD_WORDS.make}
        </button>
      </div>
    </details>
  );
}
