import type { TrayRow } from '#contract/tray-view.ts';
import { STATE_WORDS } from '#words/states.ts';
import { type SortKey, summary } from './state.ts';

interface Props {
  readonly rows: readonly TrayRow[];
  readonly filter: string;
  readonly onFilter: (state: string) => void;
  readonly whose: string;
  readonly onWhose: (grader: string) => void;
  readonly sort: SortKey;
  readonly onSort: (key: SortKey) => void;
  readonly graders: readonly { id: string; name: string }[];
  readonly me: string;
}

/** Which attempts are shown, and in what order. */
export function Filters({ rows, filter, onFilter, whose, onWhose, sort, onSort, graders, me }: Props) {
  return (
    <fieldset className="mb-2 flex flex-wrap items-center gap-2" aria-label="Show">
      <button type="button" className="quiet" aria-pressed={filter === 'all'} onClick={() => onFilter('all')}>
        all <span className="figure">{rows.length}</span>
      </button>
      {summary(rows).map(([word, n]) => (
        <button
          type="button"
          key={word}
          className="quiet"
          aria-pressed={filter === word}
          onClick={() => onFilter(filter === word ? 'all' : word)}
        >
          {STATE_WORDS[word]} <span className="figure">{n}</span>
        </button>
      ))}
      <label className="ml-auto flex items-center gap-2 text-soft">
        Of
        <select className="field !w-auto" value={whose} onChange={(e) => onWhose(e.target.value)}>
          <option value="everyone">everyone</option>
          {graders.some((g) => g.id === me) && <option value={me}>mine</option>}
          <option value="nobody">given to nobody</option>
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
        Sort by
        <select className="field !w-auto" value={sort} onChange={(e) => onSort(e.target.value as SortKey)}>
          <option value="student">student</option>
          <option value="bench">bench</option>
          <option value="state">state</option>
          <option value="score">score</option>
        </select>
      </label>
    </fieldset>
  );
}
