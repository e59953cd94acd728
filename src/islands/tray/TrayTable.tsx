import { useEffect, useRef, useState } from 'react';
import type { TrayRow } from '#contract/tray-view.ts';
import { TRAY } from '#words/tray.ts';
import { TrayLine } from './TrayLine.tsx';

interface Props {
  /** All of the sitting, and those that are shown, in their order. */
  readonly rows: readonly TrayRow[];
  readonly shown: readonly TrayRow[];
  /** Names the filter and order: with another one the table begins again. */
  readonly list: string;
  readonly students: readonly { id: string; name: string }[];
  readonly grades: boolean;
  readonly steer: (id: number, what: string, payload?: unknown) => Promise<boolean>;
  readonly onRemove: (row: TrayRow) => void;
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: (attempt: number) => void;
  readonly onChooseAll: (attempts: readonly number[]) => void;
}

export function TrayTable({ rows, shown, list, students, grades, steer, onRemove, chosen, onChoose, onChooseAll }: Props) {
  const eligible = shown.flatMap((r) => (r.attempt_id === null ? [] : [r.attempt_id]));
  // Who may not grade has no link in a line.
  const first = grades ? shown.find((r) => r.attempt_id !== null && (r.state === 'measured' || r.state === 'no-scan')) : undefined;
  const { limit, more } = useGrowing(shown.length, list);
  return (
    // The page’s first link leads to the first attempt, or to the empty table.
    <div className="panel relative overflow-x-auto" id={first ? undefined : 'first-attempt'}>
      <table className="w-full text-left max-sm:[&_td]:px-1 max-sm:[&_th]:px-1" aria-label="Attempts of this sitting">
        <thead>
          <tr className="border-b border-line text-soft">
            {grades && (
              <th className="w-8 pl-2 font-normal">
                <input
                  type="checkbox"
                  className="size-4 accent-accent"
                  aria-label="Choose all that are shown"
                  checked={eligible.length > 0 && eligible.every((id) => chosen.has(id))}
                  onChange={(e) => onChooseAll(e.target.checked ? eligible : [])}
                />
              </th>
            )}
            <th className="w-20 px-2 py-2 font-normal max-sm:hidden">Picture</th>
            <th className="px-2 py-2 font-normal">Student</th>
            <th className="px-2 py-2 font-normal max-sm:hidden">Grader</th>
            <th className="px-2 py-2 font-normal">State</th>
            <th className="px-2 py-2 font-normal">Verdicts</th>
            <th className="px-2 py-2 text-right font-normal">Score</th>
            <th className="px-2 py-2 font-normal">
              <span className="sr-only">What to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.slice(0, limit).map((r) => (
            <TrayLine
              key={r.scan_id}
              row={r}
              students={students}
              grades={grades}
              steer={steer}
              onRemove={onRemove}
              list={list}
              isFirst={r === first}
              chosen={r.attempt_id !== null && chosen.has(r.attempt_id)}
              onChoose={onChoose}
            />
          ))}
        </tbody>
      </table>
      {shown.length > limit && <div ref={more} className="p-2 text-center text-soft">{`${shown.length - limit} more below…`}</div>}
      {shown.length === 0 && <p className="p-6 text-center text-soft">{rows.length === 0 ? TRAY.empty : TRAY.noneHere}</p>}
    </div>
  );
}

/** Rows at a time: a screen holds a dozen, and a table of two thousand would take a second to draw. */
const PAGE = 40;

/** How many rows to draw: more whenever the end comes near, from the start again when the list becomes another one. */
function useGrowing(total: number, list: string) {
  const [limit, setLimit] = useState(PAGE);
  const more = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another filter or order is another list
  useEffect(() => setLimit(PAGE), [list]);
  useEffect(() => {
    const end = more.current;
    if (!end || limit >= total) return;
    const watch = new IntersectionObserver((seen) => seen.some((e) => e.isIntersecting) && setLimit((n) => 2 * n), {
      rootMargin: '800px',
    });
    watch.observe(end);
    return () => watch.disconnect();
  }, [limit, total]);
  return { limit, more };
}
