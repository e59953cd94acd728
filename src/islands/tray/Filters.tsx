import type { ReactNode } from 'react';
import { countByState, SORT_KEYS, type SortKey, type TrayList } from '#contract/tray-list.ts';
import type { TrayRow } from '#contract/tray-view.ts';
import { STATE_WORDS } from '#words/states.ts';
import { TRAY } from '#words/tray.ts';

interface Props {
  readonly rows: readonly TrayRow[];
  readonly list: TrayList;
  readonly onList: (change: Partial<TrayList>) => void;
  readonly graders: readonly { id: string; name: string }[];
  readonly me: string;
  readonly children?: ReactNode;
}

/** Which attempts are shown, and in what order. */
export function Filters({ rows, list, onList, graders, me, children }: Props) {
  const one = (word: string, text: string, n: number) => (
    <button
      type="button"
      key={word}
      className="quiet"
      aria-pressed={list.filter === word}
      onClick={() => onList({ filter: list.filter === word ? 'all' : word })}
    >
      {text} <span className="figure">{n}</span>
    </button>
  );
  return (
    <fieldset className="mb-2 flex flex-wrap items-center gap-2" aria-label="Show">
      {one('all', TRAY.all, rows.length)}
      {countByState(rows).map(([word, n]) => one(word, STATE_WORDS[word], n))}
      {children}
      <label className="ml-auto flex items-center gap-2 text-soft">
        {TRAY.of}
        <select className="field !w-auto" value={list.whose} onChange={(e) => onList({ whose: e.target.value })}>
          <option value="everyone">{TRAY.everyone}</option>
          {graders.some((g) => g.id === me) && <option value={me}>{TRAY.mine}</option>}
          <option value="nobody">{TRAY.nobody}</option>
          {graders
            .filter((g) => g.id !== me)
            .map((g) => (
              <option key={g.id} value={g.id}>
                {g.name}
              </option>
            ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-soft">
        {TRAY.sortBy}
        <select className="field !w-auto" value={list.sort} onChange={(e) => onList({ sort: e.target.value as SortKey })}>
          {SORT_KEYS.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
    </fieldset>
  );
}
