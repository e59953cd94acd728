import { useId, useState } from 'react';
import type { TargetView } from '#contract/views.ts';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';
import { HAND } from '#words/hand.ts';
import { readingWords, unitWords } from '#words/readings.ts';
import { type HandEntry, handInterval, implausible } from './hand.ts';

interface Props {
  readonly target: Pick<TargetView, 'reading' | 'zone' | 'stat' | 'unit' | 'hand' | 'methods'> &
    Partial<Pick<TargetView, 'lo' | 'hi' | 'value'>>;
  readonly onKeep: (method: HandMethod, lo: number, hi: number) => void;
  readonly onTakeBack: () => void;
  readonly onGiveUp: () => void;
}

/** Form for one reading by hand (probe, gauge, wax, explorer, eye); the instrument's step is part of the reading. */
export function HandForm({ target, onKeep, onTakeBack, onGiveUp }: Props) {
  const { methods } = target;
  const [method, setMethod] = useState<HandMethod>(target.hand?.method ?? methods[0]);
  const [entry, setEntry] = useState<HandEntry>({ first: '', second: '' });
  const id = useId();
  const interval = handInterval(method, entry);
  const { lo = null, hi = null, value = null } = target;
  const doubt = interval && implausible(interval, target.unit, { lo, hi, value });
  /** The entry that was asked about; keeping it once more keeps it. */
  const [sure, setSure] = useState<string | null>(null);
  const said = JSON.stringify([method, entry]);
  const set = (k: keyof HandEntry) => (e: { target: { value: string } }) => setEntry((q) => ({ ...q, [k]: e.target.value }));
  const number = (k: keyof HandEntry, word: string) => (
    <label className="flex flex-1 flex-col text-[12px] text-soft">
      {word}
      <input
        className="field figure"
        inputMode="decimal"
        // A text field, because a number field silently turns “1,2” into 12.
        type="text"
        // biome-ignore lint/a11y/noAutofocus: the form opens because this figure is wanted
        autoFocus={k === 'first'}
        value={entry[k]}
        onChange={set(k)}
      />
    </label>
  );
  const unit = unitWords(target.unit);
  return (
    <form
      className="my-1 border-l-4 border-accent bg-wash/60 p-2"
      aria-label={HAND.about(readingWords(target.reading, target.zone, target.stat))}
      onSubmit={(e) => {
        e.preventDefault();
        if (!interval) return;
        if (doubt && sure !== said) setSure(said);
        else onKeep(method, interval[0], interval[1]);
      }}
      onKeyDown={(e) => e.key === 'Escape' && onGiveUp()}
    >
      <div className="flex items-end gap-2">
        <label className="flex flex-col text-[12px] text-soft" htmlFor={id}>
          {HAND.readWith}
          <select
            id={id}
            className="field !w-32"
            value={method}
            onChange={(e) => {
              setMethod(e.target.value as HandMethod);
              setEntry({ first: '', second: '' });
            }}
          >
            {methods.map((m) => (
              <option key={m} value={m}>
                {HAND_METHODS[m].word}
              </option>
            ))}
          </select>
        </label>
        {method === 'probe' && number('first', HAND.nearestMark(unit))}
        {method === 'gauge' && (
          <>
            {number('first', HAND.passes(unit))}
            {number('second', HAND.passesNot(unit))}
          </>
        )}
        {method === 'wax' && number('first', HAND.sheets)}
        {method === 'explorer' && (
          <label className="flex flex-1 flex-col text-[12px] text-soft">
            {HAND.tip}
            <select className="field" value={entry.first} onChange={set('first')}>
              <option value="">{HAND.choose}</option>
              <option value="no">{HAND.glides}</option>
              <option value="yes">{HAND.catches}</option>
            </select>
          </label>
        )}
        {method === 'eye' && (
          <>
            {number('first', HAND.from(unit))}
            {number('second', HAND.to(unit))}
          </>
        )}
      </div>
      {doubt && sure === said && (
        <p role="alert" className="mt-1 text-[13px] text-bad">
          {HAND.doubt(`${interval[0].toFixed(2)} to ${interval[1].toFixed(2)} ${unit}`, doubt)}
        </p>
      )}
      <div className="mt-2 flex items-center gap-1">
        <span className="figure mr-auto text-[13px]" aria-live="polite">
          {interval ? `${interval[0].toFixed(2)} to ${interval[1].toFixed(2)} ${unit}` : ''}
        </span>
        {target.hand && (
          <button type="button" className="quiet" onClick={onTakeBack}>
            {HAND.takeBack}
          </button>
        )}
        <button type="button" className="quiet" onClick={onGiveUp}>
          {HAND.close}
        </button>
        <button type="submit" className="act" disabled={!interval}>
          {doubt && sure === said ? HAND.keepAnyway : HAND.keep}
        </button>
      </div>
    </form>
  );
}
