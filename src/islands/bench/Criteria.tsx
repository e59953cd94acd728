import { type ReactNode, useEffect, useRef } from 'react';
import { CriterionLine } from './CriterionLine.tsx';
import { CriticalLine } from './CriticalLine.tsx';
import type { LineProps } from './lines.ts';

/** The criteria and critical errors of a score; `children` stand above them. */
export function Criteria(p: LineProps & { children?: ReactNode }) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector(`[data-line="${p.focus}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [p.focus]);
  return (
    <section className="panel min-h-0 overflow-y-auto" aria-label="Criteria" ref={list} tabIndex={-1}>
      {p.children}
      {p.score.criteria.map((c, i) => (
        <CriterionLine key={c.id} c={c} index={i} {...p} />
      ))}
      <h2 className="border-y border-line bg-ground px-3 py-1 font-semibold">Critical errors</h2>
      {p.score.critical.map((c, i) => (
        <CriticalLine key={c.id} c={c} index={p.score.criteria.length + i} {...p} />
      ))}
    </section>
  );
}
