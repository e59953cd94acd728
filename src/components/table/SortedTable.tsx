import { type ColumnDef, createSortedRowModel, rowSortingFeature, sortFns, tableFeatures, useTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';

const FEATURES = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel(), sortFns });
export type Column<T extends object> = ColumnDef<typeof FEATURES, T>;

interface Props<T extends object> {
  readonly rows: readonly T[];
  /** Kept outside of what draws the table, or made once: new ones sort anew. */
  readonly columns: readonly Column<T>[];
  readonly idOf: (row: T) => string;
  readonly label: string;
}

/** px of a line, and lines from which only those in view are drawn. */
const LINE = 40;
const MANY = 120;
const SORTED = { asc: 'ascending', desc: 'descending' } as const;
const MARK = { asc: ' ▲', desc: ' ▼' } as const;

/** A table that is sorted by clicking a heading; of a long one only the lines in view are drawn. */
export function SortedTable<T extends object>({ rows, columns, idOf, label }: Props<T>) {
  const table = useTable({ features: FEATURES, columns: columns as Column<T>[], data: rows as T[], getRowId: idOf });
  const box = useRef<HTMLElement>(null);
  const lines = table.getRowModel().rows;
  const isLong = lines.length > MANY;
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => LINE,
    overscan: 12,
    enabled: isLong,
  });
  const shown = isLong ? virtual.getVirtualItems().map((i) => lines[i.index]) : lines;
  const [before, after] = isLong
    ? [virtual.getVirtualItems()[0]?.start ?? 0, virtual.getTotalSize() - (virtual.getVirtualItems().at(-1)?.end ?? 0)]
    : [0, 0];
  const space = (px: number) =>
    px > 0 && (
      <tr>
        <td colSpan={columns.length} style={{ height: px }} />
      </tr>
    );
  return (
    <section
      ref={box}
      className={isLong ? 'relative max-h-[75vh] overflow-auto' : 'relative overflow-x-auto'}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard
      tabIndex={0}
    >
      <table className="w-full">
        <thead className="sticky top-0 bg-panel">
          {table.getHeaderGroups().map((g) => (
            <tr key={g.id} className="text-left align-bottom text-soft">
              {g.headers.map((h) => {
                const sorted = h.column.getIsSorted();
                return (
                  <th
                    key={h.id}
                    className="bg-panel pb-1 pr-2 font-normal first:sticky first:left-0"
                    aria-sort={sorted ? SORTED[sorted] : undefined}
                  >
                    {h.column.getCanSort() ? (
                      <button type="button" className="text-left hover:underline" onClick={h.column.getToggleSortingHandler()}>
                        <table.FlexRender header={h} />
                        {sorted && <span aria-hidden="true">{MARK[sorted]}</span>}
                      </button>
                    ) : (
                      <table.FlexRender header={h} />
                    )}
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {space(before)}
          {shown.map((row) => (
            <tr key={row.id} className="border-t border-line">
              {row.getAllCells().map((cell) => (
                <td key={cell.id} className="bg-panel py-1 pr-2 first:sticky first:left-0">
                  <table.FlexRender cell={cell} />
                </td>
              ))}
            </tr>
          ))}
          {space(after)}
        </tbody>
      </table>
    </section>
  );
}
