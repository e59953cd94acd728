import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';
import type { BenchKey } from '#words/keys.ts';
import { actOf, type KeyChoice } from './keys.ts';

const LETTERS = [...'abcdefghijklmnopqrstuvwxyz'];

export interface KeyHandlers {
  /** Letters that a person may change, by what they do. */
  readonly acts: Readonly<Record<BenchKey, () => unknown>>;
  /** Keys that stay what they are, as the browser names them. */
  readonly fixed: Readonly<Record<string, () => unknown>>;
}

/** Whether the key belongs to the field that has the focus: all do but a slider's, which wants only those that move it. */
function isTypedInto(target: HTMLElement, key: string): boolean {
  const field = target.closest('input, textarea, select');
  if (!field) return false;
  return !(field instanceof HTMLInputElement && field.type === 'range') || /^(Arrow|Home|End|Page)/.test(key);
}

/** Keys of the Bench. They rest while something is typed and while a dialog is open. */
export function useKeys(paused: boolean, choice: KeyChoice, handlers: KeyHandlers): void {
  const latest = useRef({ paused, choice, handlers });
  latest.current = { paused, choice, handlers };
  useEffect(() => {
    const bind = (key: string, act: () => (() => unknown) | undefined) => (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        isTypedInto(target, event.key) ||
        latest.current.paused ||
        document.querySelector('dialog[open], [role=dialog], [role=alertdialog]')
      )
        return;
      // A key that is held down moves on; it decides and signs once.
      if (event.repeat && !key.includes('Arrow')) return event.preventDefault();
      // A focused button or link keeps its own Enter, but for the head of a line: there it confirms.
      if (key === 'Enter' && target.closest('button, a') && !target.closest('[data-line-head]')) return;
      const handler = act();
      if (!handler) return;
      event.preventDefault();
      handler();
    };
    const letters = LETTERS.map((k) => {
      const act = () => {
        const { choice: own, handlers: h } = latest.current;
        const id = actOf(own, k);
        return id ? h.acts[id] : undefined;
      };
      return [k, bind(k, act)] as const;
    });
    const fixed = Object.keys(latest.current.handlers.fixed)
      .filter((k) => k !== '?')
      .map((k) => [k, bind(k, () => latest.current.handlers.fixed[k])] as const);
    const stop = tinykeys(window, Object.fromEntries([...letters, ...fixed]));
    const question = (event: KeyboardEvent): void => {
      if (event.key === '?') bind('?', () => latest.current.handlers.fixed['?'])(event);
    };
    window.addEventListener('keydown', question);
    return () => {
      stop();
      window.removeEventListener('keydown', question);
    };
  }, []);
}
