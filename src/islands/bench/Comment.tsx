import { useState } from 'react';
import type { PhraseView } from '#contract/views.ts';
import { filled, phrasesFor, type Side } from './hand.ts';

interface Props {
  readonly comment: string | null;
  readonly title: string;
  readonly reading: string;
  readonly place: string | null;
  readonly value: string | null;
  readonly side: Side;
  readonly phrases: readonly PhraseView[];
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onKeep: (text: string) => void;
}

/** The instructor's word to the student on one criterion, from the course's phrases or free. */
export function Comment({ comment, title, reading, place, value, side, phrases, open, onOpen, onKeep }: Props) {
  const [text, setText] = useState(comment ?? '');
  const close = (): void => {
    setText(comment ?? '');
    onOpen(false);
  };
  const keep = (): void => {
    onKeep(text);
    onOpen(false);
  };
  const offered = phrasesFor(phrases, reading, side)
    .slice(0, 5)
    .map((q) => filled(q.body, place, value));
  if (!open)
    return (
      <div className="mt-2 flex items-start gap-2">
        {comment && <p className="flex-1 border-l-2 border-soft pl-2 italic">{comment}</p>}
        <button type="button" className="quiet" onClick={() => onOpen(true)}>
          {comment ? 'Change the comment' : 'Comment'} <span className="figure text-soft">k</span>
        </button>
      </div>
    );
  return (
    <form
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
      onKeyDown={(e) => e.key === 'Escape' && close()}
    >
      <label className="mb-1 block font-semibold" htmlFor={`comment-${reading}`}>
        To the student about {title.toLowerCase()}
      </label>
      <textarea
        id={`comment-${reading}`}
        className="field"
        rows={2}
        maxLength={2000}
        value={text}
        // biome-ignore lint/a11y/noAutofocus: the form opens because words are wanted
        autoFocus
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          const phrase = text === '' && /^[1-5]$/.test(e.key) ? offered[Number(e.key) - 1] : undefined;
          if (phrase) setText(phrase);
          else if (e.key !== 'Enter' || e.shiftKey) return;
          else keep();
          e.preventDefault();
        }}
      />
      <div className="my-1 flex flex-wrap gap-1">
        {offered.map((words, i) => (
          <button
            key={words}
            type="button"
            className="quiet !min-h-0 !px-2 py-1 text-left text-[12px]"
            onClick={() => setText(`${text} ${words}`.trim())}
          >
            <span className="figure text-soft">{i + 1}</span> {words}
          </button>
        ))}
      </div>
      <div className="flex justify-end gap-1">
        <button type="button" className="quiet" onClick={close}>
          Close
        </button>
        <button type="submit" className="act">
          Keep
        </button>
      </div>
    </form>
  );
}
