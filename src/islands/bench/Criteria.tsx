import { type ReactNode, useEffect, useRef } from 'react';
import { BENCH } from '#words/bench.ts';
import { CriterionLine } from './CriterionLine.tsx';
import { CriticalLine } from './CriticalLine.tsx';
import type { LineProps } from './lines.ts';

/** The criteria and critical errors of a score; `children` stand above them. */
export function Criteria(p: LineProps & { children?: ReactNode }) {
  const list = useRef<HTMLDivElement>(null);
  const first = useRef(true);
  useEffect(() => {
    const line = list.current?.querySelector(`[data-line="${p.focus}"]`);
    // On a narrow screen the page opens at its top, with the tooth.
    if (!first.current || window.innerWidth >= 900) line?.scrollIntoView({ block: 'nearest' });
    if (first.current) {
      first.current = false;
      return;
    }
    // The keyboard's own focus goes along, unless it is in a form or a menu.
    const now = document.activeElement;
    if (now === document.body || now?.closest('[data-line-head]'))
      line?.querySelector<HTMLElement>('[data-line-head]')?.focus({ preventScroll: true });
  }, [p.focus]);
  const criteria = p.score.criteria.map((c, i) => <CriterionLine key={c.id} c={c} index={i} {...p} />);
  const critical = p.score.critical.length > 0 && (
    <>
      <h2 className="border-y border-line bg-ground px-3 py-1 font-semibold">{BENCH.critical}</h2>
      {p.score.critical.map((c, i) => (
        <CriticalLine key={c.id} c={c} index={p.score.criteria.length + i} {...p} />
      ))}
    </>
  );
  return (
    <section className="panel min-h-0 max-[899px]:order-2 min-[900px]:overflow-y-auto" aria-label="Criteria" ref={list} tabIndex={-1}>
      {p.children}
      {/* A student reads first what kept the work from passing. */}
      {!p.canGrade && p.score.critical.some((c) => c.made) ? (
        <>
          {critical}
          {criteria}
        </>
      ) : (
        <>
          {criteria}
          {critical}
        </>
      )}
    </section>
  );
}
