import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';

type Handlers = Record<string, () => unknown>;

/** Single keys of the Bench. While a text field has the focus they write text, as everywhere. */
export function useKeys(paused: boolean, handlers: Handlers): void {
  const latest = useRef({ paused, handlers });
  latest.current = { paused, handlers };
  useEffect(() => {
    const bind = (key: string) => (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest('input, textarea, select') || latest.current.paused || document.querySelector('[role=dialog], [role=alertdialog]'))
        return;
      // A key that is held down moves on through the lines; it decides and signs once.
      if (event.repeat && !key.startsWith('Arrow')) return event.preventDefault();
      // A focused button or link keeps its own Enter.
      if (key === 'Enter' && target.closest('button, a')) return;
      event.preventDefault();
      latest.current.handlers[key]?.();
    };
    const keys = Object.keys(latest.current.handlers).filter((k) => k !== '?');
    const stop = tinykeys(window, Object.fromEntries(keys.map((k) => [k, bind(k)])));
    const question = (event: KeyboardEvent): void => {
      if (event.key === '?') bind('?')(event);
    };
    window.addEventListener('keydown', question);
    return () => {
      stop();
      window.removeEventListener('keydown', question);
    };
  }, []);
}
