import { useState } from 'react';
import { BandEnds } from '#components/form/BandEnds.tsx';
import type { RubricFile } from '#contract/rubric.ts';
import { titleOf, unitOf } from '#core/catalogue/catalogue.ts';
import type { Concern } from '#core/score/concerns.ts';
import { readingWords, unitWords } from '#words/readings.ts';
import { concernWords, RUBRIC_WORDS } from '#words/rubric.ts';
import { EffectChoice } from './EffectChoice.tsx';
import { PickReading } from './PickReading.tsx';
import type { Act, Place } from './state.ts';

type ErrorRow = RubricFile['critical'][number];

interface Props {
  readonly errors: readonly ErrorRow[];
  readonly concerns: readonly Concern[];
  readonly disabled: boolean;
  readonly act: (a: Act) => void;
}

/** What fails, caps or costs points whatever the rest is: its limit and its effect; one can be switched off, and one of the course's own added. */
export function Critical({ errors, concerns, disabled, act }: Props) {
  return (
    <section className="grid gap-1 border-t border-line pt-3" aria-label={RUBRIC_WORDS.critical}>
      <h2 className="font-semibold">{RUBRIC_WORDS.critical}</h2>
      {errors.length === 0 && <p className="text-soft">{RUBRIC_WORDS.noCritical}</p>}
      <ul className="grid gap-2">
        {errors.map((e) => (
          <ErrorLine key={e.id} error={e} concerns={concerns.filter((q) => q.criterion === e.id)} disabled={disabled} act={act} />
        ))}
      </ul>
      {!disabled && <NewError onAdd={(title, place) => act({ type: 'add-error', title, place })} />}
    </section>
  );
}

function ErrorLine({
  error: e,
  concerns,
  disabled,
  act,
}: {
  readonly error: ErrorRow;
  readonly concerns: readonly Concern[];
  readonly disabled: boolean;
  readonly act: (a: Act) => void;
}) {
  const unit = unitWords(unitOf(e.reading, e.stat));
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className="min-w-52 flex-1">
        {e.title} <span className="block text-[13px] text-soft">{readingWords(e.reading, e.zone, e.stat)}</span>
      </span>
      <span className="text-soft">{RUBRIC_WORDS.allowed}</span>
      <BandEnds
        band={e.allowed}
        disabled={disabled}
        open={RUBRIC_WORDS.open}
        label={(end) => `${RUBRIC_WORDS.allowed} ${RUBRIC_WORDS.ends[end]}, ${e.title}`}
        onEnd={(end, value) => act({ type: 'limit', error: e.id, end, value })}
      />
      <span className="w-8 text-soft">{unit}</span>
      <EffectChoice
        title={e.title}
        effect={e.effect}
        disabled={disabled}
        onEffect={(effect) => act({ type: 'effect', error: e.id, effect })}
      />
      {concerns.map((q) => (
        <p key={q.kind} className="basis-full border-l-4 border-bad pl-2">
          {concernWords(q, unit)}
        </p>
      ))}
    </li>
  );
}

/** A critical error of the course's own: what it is called and which reading finds it; its limit is given on its line. */
export function NewError({ onAdd }: { readonly onAdd: (title: string, place: Place) => void }) {
  const [title, setTitle] = useState('');
  return (
    <details className="py-2">
      <summary className="cursor-pointer font-semibold">{RUBRIC_WORDS.addError}</summary>
      <div className="mt-2 grid gap-2">
        <label className="grid gap-1">
          {RUBRIC_WORDS.errorTitle}
          <input className="field" maxLength={80} value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <PickReading
          label={RUBRIC_WORDS.addError}
          onePlace
          onPick={(place) => {
            onAdd(title.trim() || titleOf(place.reading), place);
            setTitle('');
          }}
        />
      </div>
    </details>
  );
}
