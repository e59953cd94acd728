import { useState } from 'react';
import { titleOf } from '#core/catalogue/catalogue.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import { PickReading } from './PickReading.tsx';
import type { Act } from './state.ts';

/** A line of the course's own: a reading with its band, or a question that a person answers in a word. */
export function NewLine({ act }: { readonly act: (a: Act) => void }) {
  const [title, setTitle] = useState('');
  const [question, setQuestion] = useState('');
  const named = title.trim();
  return (
    <details className="border-t border-line py-3">
      <summary className="cursor-pointer font-semibold">{RUBRIC_WORDS.addLine}</summary>
      <div className="mt-2 grid gap-2">
        <label className="grid gap-1">
          {RUBRIC_WORDS.lineTitle}
          <input className="field" maxLength={80} value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <PickReading
          label={RUBRIC_WORDS.addLine}
          onPick={(place) => {
            act({ type: 'add-line', title: named || titleOf(place.reading), place });
            setTitle('');
          }}
        />
        <div className="flex items-end gap-2">
          <label className="grid flex-1 gap-1">
            {RUBRIC_WORDS.orQuestion}
            <input className="field" maxLength={160} value={question} onChange={(e) => setQuestion(e.target.value)} />
          </label>
          <button
            type="button"
            className="quiet"
            disabled={!named || !question.trim()}
            onClick={() => {
              act({ type: 'add-question', title: named, question: question.trim() });
              setTitle('');
              setQuestion('');
            }}
          >
            {RUBRIC_WORDS.add}
          </button>
        </div>
      </div>
    </details>
  );
}
