import { listFrom, type TrayList } from '#contract/tray-list.ts';
import type { TrayRow, UploadOutcome } from '#contract/tray-view.ts';
import type { Waiting } from './Preview.tsx';

export const running = (rows: readonly Pick<TrayRow, 'state' | 'attempt_id'>[]): number =>
  rows.filter((r) => r.attempt_id !== null && (r.state === 'arrived' || r.state === 'measuring')).length;

/** What a person has set up on the Tray; its rows are the server's (useTray). */
export interface TrayState {
  readonly list: TrayList;
  readonly chosen: ReadonlySet<number>;
  readonly panel: 'no-scan' | 'scanner' | 'reports' | null;
  readonly waiting: readonly Waiting[];
  readonly notes: readonly UploadOutcome[];
  /** Files that are still to be sent. */
  readonly sending: number;
}

export type TrayAction =
  | { readonly do: 'list'; readonly change: Partial<TrayList> }
  | { readonly do: 'choose'; readonly attempt: number }
  | { readonly do: 'choose-all'; readonly attempts: readonly number[] }
  | { readonly do: 'panel'; readonly open: TrayState['panel'] }
  | { readonly do: 'wait'; readonly files: readonly Waiting[] }
  | { readonly do: 'send'; readonly left: number }
  | { readonly do: 'note'; readonly outcomes: readonly UploadOutcome[] };

/** Notes that are kept on the screen. */
const NOTES = 200;

export const trayOpened = (query: string): TrayState => ({
  list: listFrom(new URLSearchParams(query)),
  chosen: new Set(),
  panel: null,
  waiting: [],
  notes: [],
  sending: 0,
});

export function reduceTray(s: TrayState, a: TrayAction): TrayState {
  switch (a.do) {
    case 'list':
      // What is not shown any more must not be shared out unseen.
      return { ...s, list: { ...s.list, ...a.change }, chosen: new Set() };
    case 'choose': {
      const chosen = new Set(s.chosen);
      if (!chosen.delete(a.attempt)) chosen.add(a.attempt);
      return { ...s, chosen };
    }
    case 'choose-all':
      return { ...s, chosen: new Set(a.attempts) };
    case 'panel':
      return { ...s, panel: s.panel === a.open ? null : a.open };
    case 'wait':
      return { ...s, waiting: a.files.length ? [...s.waiting, ...a.files] : [] };
    case 'send':
      return { ...s, waiting: [], sending: Math.max(0, a.left) };
    case 'note':
      return { ...s, notes: [...a.outcomes, ...s.notes].slice(0, NOTES) };
  }
}

/**
 * Seconds until nothing is measured any more, from the rate at which the sitting's scans were done since the page watched; null while nothing tells.
 */
export function timeLeft(done: readonly { readonly at: number; readonly left: number }[]): number | null {
  const [first, last] = [done[0], done.at(-1)];
  if (!first || !last || last.at - first.at < 2 || first.left <= last.left) return null;
  return (last.left * (last.at - first.at)) / (first.left - last.left);
}
