import { useState } from 'react';
import { call } from '#components/call.ts';
import { DATE_FORMS, NUMBERINGS, type Settings as Own } from '#contract/settings.ts';
import { valueWords } from '#words/readings.ts';
import { SETTINGS_WORDS } from '#words/settings.ts';
import { dayWords, setWriting, toothWords } from '#words/writing.ts';

const TEETH = ['16', '21', '36', '44', '55', '75'];

/** One's own settings; each is kept as it is chosen, with an example beside it. */
export function Settings({ first }: { readonly first: Own }) {
  const [own, setOwn] = useState(first);
  const [said, setSaid] = useState('');
  setWriting(own);
  const choose = async (change: Partial<Own>) => {
    const before = own;
    setOwn({ ...own, ...change });
    try {
      setOwn(await call<Own>('/api/settings', change));
      setSaid(SETTINGS_WORDS.kept);
    } catch (e) {
      setOwn(before);
      setSaid((e as Error).message);
    }
  };
  return (
    <div className="grid max-w-4xl gap-4">
      <div className="flex items-baseline gap-3">
        <h1 className="text-xl font-bold">{SETTINGS_WORDS.title}</h1>
        <span className="ml-auto text-good" role="status">
          {said}
        </span>
      </div>
      <p className="text-soft">{SETTINGS_WORDS.lead}</p>
      <Choice
        legend={SETTINGS_WORDS.numbering}
        options={NUMBERINGS.map((n) => ({ value: n, text: SETTINGS_WORDS.numberings[n] }))}
        chosen={own.numbering}
        onChoose={(numbering) => void choose({ numbering })}
        example={TEETH.map((t) => toothWords(t)).join(', ')}
      />
      <Choice
        legend={SETTINGS_WORDS.digits}
        options={([1, 2] as const).map((n) => ({ value: n, text: SETTINGS_WORDS.digit[n] }))}
        chosen={own.digits}
        onChoose={(digits) => void choose({ digits })}
        example={valueWords(1.268, 0.023, 'mm')}
      />
      <Choice
        legend={SETTINGS_WORDS.dates}
        options={DATE_FORMS.map((d) => ({ value: d, text: dayWords('2026-03-09', 'short', d) }))}
        chosen={own.dates}
        onChoose={(dates) => void choose({ dates })}
        example={dayWords('2026-03-09', 'long')}
      />
      <section className="panel p-4">
        <h2 className="font-semibold">{SETTINGS_WORDS.keys}</h2>
        <p className="text-soft">{SETTINGS_WORDS.keysLead}</p>
      </section>
    </div>
  );
}

interface ChoiceProps<T extends string | number> {
  readonly legend: string;
  readonly options: readonly { readonly value: T; readonly text: string }[];
  readonly chosen: T;
  readonly onChoose: (v: T) => void;
  readonly example: string;
}

function Choice<T extends string | number>({ legend, options, chosen, onChoose, example }: ChoiceProps<T>) {
  return (
    <fieldset className="panel flex flex-wrap items-center gap-x-5 gap-y-1 p-4">
      <legend className="float-left mr-2 w-52 font-semibold">{legend}</legend>
      {options.map((o) => (
        <label key={o.value} className="flex min-h-8 items-center gap-2">
          <input type="radio" className="size-4" name={legend} checked={chosen === o.value} onChange={() => onChoose(o.value)} />
          {o.text}
        </label>
      ))}
      <span className="basis-full text-soft">
        {SETTINGS_WORDS.example}: <span className="figure text-ink">{example}</span>
      </span>
    </fieldset>
  );
}
