import type { ReactNode } from 'react';

interface Props<T extends string> {
  readonly all: readonly T[];
  readonly open: T;
  readonly onOpen: (t: T) => void;
  readonly words: (t: T) => ReactNode;
  /** Each as wide as the others, over the whole width. */
  readonly spread?: boolean;
}

/** One of several views, chosen by buttons in a row. */
export function Tabs<T extends string>({ all, open, onOpen, words, spread = false }: Props<T>) {
  return all.map((t) => (
    <button
      key={t}
      type="button"
      className={`quiet aria-pressed:font-semibold ${spread ? 'flex-1' : ''}`}
      aria-pressed={t === open}
      onClick={() => onOpen(t)}
    >
      {words(t)}
    </button>
  ));
}
