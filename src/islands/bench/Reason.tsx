import { useState } from 'react';
import type { LineProps } from './lines.ts';

/** Form for the reason of a judgement that contradicts the measurement. */
export function Reason({ label, note, onAnswer, onGiveUp }: Pick<LineProps, 'note' | 'onAnswer' | 'onGiveUp'> & { label: string }) {
  const [text, setText] = useState('');
  return (
    <form
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim()) onAnswer(text);
      }}
    >
      <label className="mb-1 block font-semibold" htmlFor="reason">
        {label}
      </label>
      <div className="flex gap-1">
        <input
          id="reason"
          ref={note}
          className="field"
          value={text}
          maxLength={500}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && onGiveUp()}
          required
        />
        <button type="submit" className="act" disabled={!text.trim()}>
          Keep
        </button>
      </div>
    </form>
  );
}
